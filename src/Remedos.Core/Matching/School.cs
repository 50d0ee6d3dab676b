using System.Reflection;
using System.Text.Json;
using Remedos.Core.Machines;

namespace Remedos.Core.Matching;

/// <summary>
/// A way to weigh what nobody can have all of. Each weight says how much of the score a thing costs; the least score comes first.
/// </summary>
/// <param name="Heat">Of the rise above the room as a share of what the limit allows.</param>
/// <param name="Noise">A tenth of what is heard above a quiet room of 20 dB(A), a decibel a hundredth.</param>
/// <param name="Price">Of its price as a share of the chip's.</param>
/// <param name="Failures">A part that can fail.</param>
/// <param name="Liquid">Being a liquid cooler; below 0 it is liked.</param>
public sealed record School(string Id, string Title, double Heat, double Noise, double Price, double Failures, double Liquid, string Reason)
{
    /// <summary>All of them, the usual one first.</summary>
    public static IReadOnlyList<School> All { get; } = Load();

    private const double MostWeight = 10;

    /// <summary>The first weight that cannot be, as a sentence; null when all is well.</summary>
    public string? Problem() =>
        new[] { ("heat", Heat, 0.0), ("noise", Noise, 0), ("price", Price, 0), ("failures", Failures, 0), ("liquid", Liquid, -MostWeight) }
            .Where(weight => !(weight.Item2 >= weight.Item3 && weight.Item2 <= MostWeight))
            .Select(weight => $"weights.{weight.Item1}: {weight.Item2:0.##} is outside {weight.Item3:0} to {MostWeight:0}.")
            .FirstOrDefault();

    /// <summary>The school of a name, the usual one where there is none of it.</summary>
    public static School Of(string? id) => All.FirstOrDefault(school => school.Id == id) ?? All[0];

    private static School[] Load()
    {
        using Stream stream = Assembly.GetExecutingAssembly().GetManifestResourceStream("Remedos.Core.Matching.schools.json")!;
        School[] schools = JsonSerializer.Deserialize(stream, TableJson.Default.SchoolArray)!;
        return
            schools.FirstOrDefault(school => school.Reason.Length < 6 || school.Problem() is not null || !Wants.Schools.Contains(school.Id))
                is { } wrong
            ? throw new InvalidDataException($"schools.json: “{wrong.Id}” lacks a reason or holds a number that cannot be.")
            : schools;
    }
}
