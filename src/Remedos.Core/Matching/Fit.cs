using System.Globalization;
using Remedos.Core.Machines;

namespace Remedos.Core.Matching;

/// <summary>Why a cooler does not fit, does not suit, or what has to be measured first.</summary>
/// <param name="Code">As in docs/formats.md.</param>
/// <param name="ByMm">By how much; null where it is no length.</param>
public sealed record FitReason(string Code, double? ByMm, string Message)
{
    /// <summary>Why a cooler does not go in, as JSON names it.</summary>
    public const string Socket = "socket",
        TooTall = "too-tall",
        Memory = "memory",
        FirstSlot = "first-slot",
        RadiatorSize = "radiator-size",
        RadiatorThickness = "radiator-thickness",
        CardLength = "card-length",
        HeatSink = "heat-sink",
        Hose = "hose",
        BehindBoard = "behind-board",
        CaseFan = "case-fan",
        CardThickness = "card-thickness",
        NoHeader = "no-header",
        HeaderCurrent = "header-current",
        MeasureNeeded = "measure-needed",
        Price = "price",
        Noise = "noise";
}

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
        List<string> places = [];
        if (cooler.IsLiquid)
        {
            FitRadiators.Check(build, cooler, reasons, places);
        }
        else
        {
            raised = AirCooler(build, cooler, reasons);
        }

        FitAround.Check(build, cooler, reasons);

        List<string> plugs = [];
        FitPlugs.Check(build, cooler, places.FirstOrDefault(), reasons, plugs);
        List<string> notes = Prebuilt(build, cooler, reasons);
        if (places.Count > 0 && build.Case?.Radiators?.FirstOrDefault(place => place.Place == places[0])?.TakesBays == true)
        {
            notes.Add($"Its radiator at the {places[0]} takes the drive cage out.");
        }

        notes.AddRange(FitAround.Notes(build, cooler, plugs));
        bool blocked = reasons.Any(reason => reason.Code != FitReason.MeasureNeeded);
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
            RoomLeft = () => FitAround.Left(build, cooler, raised, places.Count > 0 ? places[0] : null),
        };
    }

    private static void Socket(Build build, CoolerPart cooler, List<FitReason> reasons)
    {
        if ((build.Board?.Socket ?? build.Processor.Socket) is not { } socket)
        {
            reasons.Add(Measure("which socket the board has"));
        }
        else if (cooler.Sockets is null)
        {
            reasons.Add(Measure($"whether it has a bracket for socket {socket}"));
        }
        else if (!cooler.Sockets.Contains(socket))
        {
            reasons.Add(
                new FitReason(
                    FitReason.Socket,
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
            reasons.Add(Measure("whether the board holds a cooler by itself: the one that is on it is screwed into the wall of the case"));
        }

        if (obstacles.Contains(CaseObstacle.OddBracket))
        {
            reasons.Add(Measure("the holes round the socket: the maker’s bracket is not the socket’s own"));
        }

        if (obstacles.Contains(CaseObstacle.OwnFans) && cooler.Fans is { Count: > 0 })
        {
            notes.Add("The firmware may refuse fans that are not its maker’s: keep the old one, and try before the case is closed.");
        }

        return notes;
    }

    /// <summary>Where the board's heat sinks are known: whether it stands on them.</summary>
    private static void HeatSinks(Build build, CoolerPart cooler, List<FitReason> reasons)
    {
        foreach (HeatSink sink in build.Board?.HeatSinks ?? [])
        {
            if ((sink.Side == HeatSink.Rear ? cooler.ReachTowardRearMm : cooler.ReachTowardTopMm) is not { } reach)
            {
                reasons.Add(Measure($"how far the cooler stands out towards the board’s heat sink at the {sink.Side}"));
            }
            else if (reach > sink.FromSocketMm)
            {
                if (cooler.ClearanceUnderFinsMm is not { } room)
                {
                    reasons.Add(Measure("how much room there is below the cooler’s fins"));
                }
                else if (sink.HeightMm > room)
                {
                    reasons.Add(
                        new FitReason(
                            FitReason.HeatSink,
                            Round(sink.HeightMm - room),
                            $"The board’s heat sink at the {sink.Side} is {Mm(sink.HeightMm)} high, and below its fins there is room "
                                + $"for {Mm(room)}: {Mm(sink.HeightMm - room)} too high."
                        )
                    );
                }
            }
        }
    }

    /// <summary>Height, memory, heat sinks and card; how far the fan is raised, mm.</summary>
    private static double AirCooler(Build build, CoolerPart cooler, List<FitReason> reasons)
    {
        double raised = Memory(build, cooler, reasons);
        HeatSinks(build, cooler, reasons);
        if (build.Case?.MaxCoolerHeightMm is not { } room)
        {
            reasons.Add(Measure("how high a cooler the case takes: from the board’s face to the side panel"));
        }
        else if (cooler.HeightMm is not { } height)
        {
            reasons.Add(Measure("how high the cooler is"));
        }
        else if (height + raised > room)
        {
            reasons.Add(
                new FitReason(
                    FitReason.TooTall,
                    Round(height + raised - room),
                    raised > 0
                        ? $"With its fan raised by {Mm(raised)} for the memory it is {Mm(height + raised)} high; the case takes "
                            + $"{Mm(room)}, {Mm(height + raised - room)} less."
                        : $"It is {Mm(height)} high; the case takes {Mm(room)}, {Mm(height - room)} less."
                )
            );
        }

        if (build.Graphics is not null && cooler.ReachTowardSlotMm is not 0)
        {
            if (build.Board?.FirstSlotFromSocketMm is not { } slot || cooler.ReachTowardSlotMm is not { } reach)
            {
                reasons.Add(
                    Measure(
                        cooler.ReachTowardSlotMm is null
                            ? "how far the cooler stands out towards the card"
                            : "from the socket’s centre to the first slot"
                    )
                );
            }
            else if (slot - (build.Graphics.BackPlateMm ?? 0) is var free && reach > free)
            {
                reasons.Add(
                    new FitReason(
                        FitReason.FirstSlot,
                        Round(reach - free),
                        $"It stands {Mm(reach)} out towards the card, and the first slot is {Mm(slot)} "
                            + $"away{(free < slot ? $", its back plate {Mm(free)}" : "")}: {Mm(reach - free)} over the card’s back plate."
                    )
                );
            }
        }

        return raised;
    }

    /// <summary>How far the fan has to be raised over the memory, mm.</summary>
    private static double Memory(Build build, CoolerPart cooler, List<FitReason> reasons)
    {
        if (build.Memory is null && build.Board?.MemoryFromSocketMm is null)
        {
            reasons.Add(Measure("from the socket’s centre to the first memory slot, and how high the memory is"));
            return 0;
        }

        if (cooler.ReachTowardMemoryMm is not { } reach)
        {
            reasons.Add(Measure("how far the cooler stands out towards the memory"));
            return 0;
        }

        if (build.Board?.MemoryFromSocketMm is not { } away)
        {
            reasons.Add(Measure("from the socket’s centre to the first memory slot"));
            return 0;
        }

        if (reach <= away)
        {
            return 0;
        }

        if (build.Memory?.HeightMm is not { } height)
        {
            reasons.Add(Measure("how high the memory is"));
            return 0;
        }

        if (cooler.ClearanceUnderFanMm is not { } clearance)
        {
            reasons.Add(Measure("how much room there is below the cooler’s fan"));
            return 0;
        }

        double over = height - clearance;
        if (over > 0 && cooler.FanCanRiseMm is null)
        {
            reasons.Add(Measure($"whether its fan can be raised by {Mm(over)}, which the memory wants"));
            return 0;
        }

        double rise = cooler.FanCanRiseMm ?? 0;
        if (over > rise)
        {
            reasons.Add(
                new FitReason(
                    FitReason.Memory,
                    Round(over - rise),
                    $"Memory of {Mm(height)} stands under its fan, where there is room for "
                        + $"{Mm(clearance)}{(rise > 0 ? $" and {Mm(rise)} more with the fan raised" : "")}: {Mm(over - rise)} too high."
                )
            );
            return 0;
        }

        return Math.Max(0, Round(over));
    }

    internal static FitReason Measure(string what) => new(FitReason.MeasureNeeded, null, $"Measure first: {what}.");

    internal static double Round(double mm) => Math.Round(mm, 1);

    internal static string Mm(double mm) => $"{mm.ToString("0.#", CultureInfo.InvariantCulture)} mm";
}
