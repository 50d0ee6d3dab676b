using System.Globalization;
using System.Text.Json.Serialization;
using Remedos.Core.Machines;
using Remedos.Core.Parts;

namespace Remedos.Core.Matching;

/// <summary>What speaks against a cooler, in the codes of docs/formats.md.</summary>
[JsonConverter(typeof(KebabEnum<FitCode>))]
public enum FitCode
{
    /// <summary>The board’s holes.</summary>
    Socket,

    /// <summary>The side panel.</summary>
    TooTall,

    /// <summary>The modules beside it.</summary>
    Memory,

    /// <summary>The card in the first slot.</summary>
    FirstSlot,

    /// <summary>No place for a radiator of its length.</summary>
    RadiatorSize,

    /// <summary>Room for the radiator with its fans.</summary>
    RadiatorThickness,

    /// <summary>The card that reaches to the radiator.</summary>
    CardLength,

    /// <summary>A heat sink of the board.</summary>
    HeatSink,

    /// <summary>The hoses’ length.</summary>
    Hose,

    /// <summary>What stands behind the board.</summary>
    BehindBoard,

    /// <summary>A fan of the case.</summary>
    CaseFan,

    /// <summary>The card’s thickness.</summary>
    CardThickness,

    /// <summary>Nothing to plug it into.</summary>
    NoHeader,

    /// <summary>More current than the header bears.</summary>
    HeaderCurrent,

    /// <summary>A measure that is not known.</summary>
    MeasureNeeded,

    /// <summary>More than wanted.</summary>
    Price,

    /// <summary>Louder than wanted.</summary>
    Noise,
}

/// <summary>Why a cooler does not fit, does not suit, or what has to be measured first.</summary>
/// <param name="Code">What speaks against it.</param>
/// <param name="ByMm">By how much; null where it is no length.</param>
/// <param name="Measure">Which measure it hangs on, where a ruler at the machine answers it.</param>
/// <param name="Of">Kind of the part that does not say what has to be known; null where nothing has.</param>
public sealed record FitReason(FitCode Code, double? ByMm, string Message, FitMeasure? Measure = null, string? Of = null);

/// <summary>How a cooler goes into a build.</summary>
/// <param name="Fits">Null when it hangs on a measure that is not known.</param>
/// <param name="Places">Where its radiator can hang; empty for an air cooler.</param>
/// <param name="FanRaisedMm">How far the fan has to be moved up for the memory.</param>
/// <param name="Plugs">Which header each fan and the pump goes to, a sentence each.</param>
/// <param name="Notes">What it takes or wants although it fits, a sentence each.</param>
public sealed record FitResult(
    bool? Fits,
    IReadOnlyList<FitReason> Reasons,
    IReadOnlyList<string> Places,
    double FanRaisedMm,
    IReadOnlyList<string> Plugs,
    IReadOnlyList<string> Notes
)
{
    /// <summary>The room that is left where it fits, the tightest first; empty where nothing was to be held against.</summary>
    public IReadOnlyList<FitRoom> Left => RoomLeft?.Invoke() ?? [];

    /// <summary>Whether it goes in only when it is turned by a quarter, so that it blows upwards.</summary>
    public bool Turned { get; init; }

    /// <summary>Asked only of those that somebody looks at.</summary>
    internal Func<IReadOnlyList<FitRoom>>? RoomLeft { get; init; }
}

/// <summary>Room that is left, mm.</summary>
/// <param name="To">What it would touch next: “the side panel”.</param>
public sealed record FitRoom(string To, double LeftMm);

/// <summary>The rules of fitting, each with its millimetres (docs/science.md, “Choosing a cooler”).</summary>
public static class Fit
{
    /// <summary>Every rule of fit for one cooler in one machine.</summary>
    public static FitResult Of(Build build, CoolerPart cooler)
    {
        List<FitReason> reasons = [];
        Socket(build, cooler, reasons);
        double raised = 0;
        bool turned = false;
        List<string> places = [];
        if (cooler.IsLiquid)
        {
            FitRadiators.Check(build, cooler, reasons, places);
            FitAround.Check(build, cooler, reasons);
        }
        else
        {
            (raised, turned) = FitAirCooler.Check(build, cooler, reasons);
        }

        List<string> plugs = [];
        FitPlugs.Check(build, cooler, places.FirstOrDefault(), reasons, plugs);
        List<string> notes = Prebuilt(build, cooler, reasons);
        if (places.Count > 0 && build.Case?.Radiators?.FirstOrDefault(place => place.Place == places[0])?.TakesBays == true)
        {
            notes.Add($"Its radiator at the {places[0]} means taking the drive cage out.");
        }

        notes.AddRange(FitAround.Notes(build, cooler, plugs));
        if (turned)
        {
            notes.Insert(0, "It goes in turned by a quarter and blows upwards: it needs a fan at the top that blows out.");
        }

        bool blocked = reasons.Any(reason => reason.Code != FitCode.MeasureNeeded);
        return new FitResult(
            blocked ? false
                : reasons.Count > 0 ? null
                : true,
            reasons,
            places,
            raised,
            plugs,
            notes
        )
        {
            Turned = turned,
            RoomLeft = () =>
                FitAround.Left(build, turned ? FitAirCooler.Turned(cooler) : cooler, raised, places.Count > 0 ? places[0] : null),
        };
    }

    private static void Socket(Build build, CoolerPart cooler, List<FitReason> reasons)
    {
        if ((build.Board?.Socket ?? build.Processor.Socket) is not { } socket)
        {
            reasons.Add(Measure("which socket the board has", PartKind.Board));
        }
        else if (cooler.Sockets is null)
        {
            reasons.Add(Measure($"whether it has a bracket for socket {socket}"));
        }
        else if (!cooler.Sockets.Contains(socket))
        {
            reasons.Add(
                new FitReason(
                    FitCode.Socket,
                    null,
                    $"It has no bracket for socket "
                        + $"{SocketPattern.Words(socket)}"
                        + (cooler.Sockets.Count == 0 ? "" : $", only for {string.Join(", ", cooler.Sockets.Select(SocketPattern.Words))}")
                        + "."
                )
            );
        }
    }

    /// <summary>
    /// What the maker of a complete machine did that an ordinary cooler does not expect; the one that is on it has got by.
    /// </summary>
    private static List<string> Prebuilt(Build build, CoolerPart cooler, List<FitReason> reasons)
    {
        List<string> notes = [];
        if (build.Case?.Obstacles is not { Count: > 0 } obstacles || cooler.Id == build.CurrentCooler)
        {
            return notes;
        }

        if (obstacles.Contains(CaseObstacle.WallScrews))
        {
            reasons.Add(
                Measure(
                    "whether the board holds a cooler by itself: the one that is on it is screwed into the wall of the case",
                    PartKind.Case
                )
            );
        }

        if (obstacles.Contains(CaseObstacle.OddBracket))
        {
            reasons.Add(Measure("the holes round the socket: the maker’s bracket is not the socket’s own", PartKind.Case));
        }

        if (obstacles.Contains(CaseObstacle.OwnFans) && cooler.Fans is { Count: > 0 })
        {
            notes.Add("The firmware may refuse fans that are not its maker’s: keep the old one, and try before the case is closed.");
        }

        return notes;
    }

    internal static FitReason Measure(string what, string of = PartKind.Cooler) =>
        new(FitCode.MeasureNeeded, null, $"Measure first: {what}.", Of: of);

    /// <summary>What a ruler at the machine answers.</summary>
    /// <param name="words">Where more is wanted than the measure's own words.</param>
    internal static FitReason Measure(MeasureRow row, double? atLeastMm = null, double? atMostMm = null, string? words = null) =>
        Measure(words ?? row.Words, row.Part) with
        {
            Measure = new FitMeasure(row.Field, atLeastMm, atMostMm),
        };

    internal static double Round(double mm) => Math.Round(mm, 1);

    internal static string Mm(double mm) => $"{mm.ToString("0.#", CultureInfo.InvariantCulture)} mm";
}
