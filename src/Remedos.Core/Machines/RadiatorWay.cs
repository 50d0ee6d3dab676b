namespace Remedos.Core.Machines;

/// <summary>Where a radiator can hang and which way its fans blow.</summary>
/// <param name="Inward">Whether they draw from the room.</param>
public sealed record RadiatorWay(string Place, bool Inward)
{
    /// <summary>Those that anybody would choose, in the order in which one tries them.</summary>
    public static readonly IReadOnlyList<RadiatorWay> Chosen =
    [
        new("front", true),
        new("front", false),
        new("top", false),
        new("top", true),
        new("rear", false),
        new("bottom", true),
        new("side", true),
    ];

    /// <summary>All that can be met: front-in, front-out, rear-in …</summary>
    public static readonly IReadOnlyList<string> Ids =
    [
        .. AirPlan.Places.SelectMany(place => new[] { new RadiatorWay(place, true).Id, new RadiatorWay(place, false).Id }),
    ];

    /// <summary>As it is noted.</summary>
    public string Id => $"{Place}-{(Inward ? "in" : "out")}";

    /// <summary>As one reads it.</summary>
    public string Title =>
        $"{Place switch
        {
            "front" => "in front",
            "top" => "on top",
            _ => $"at the {Place}",
        }}, blowing {(Inward ? "in" : "out")}";

    /// <summary>Of what was noted; null for nothing.</summary>
    public static RadiatorWay? Of(string? id) => id?.Split('-') is [var place, var way] ? new(place, way == "in") : null;
}
