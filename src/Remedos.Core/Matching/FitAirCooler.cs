using Remedos.Core.Machines;
using static Remedos.Core.Matching.Fit;

namespace Remedos.Core.Matching;

/// <summary>An air cooler between panel, memory, card and whatever stands tall on the board; turned where only that lets it in.</summary>
internal static class FitAirCooler
{
    private static readonly MeasureRow CoolerRoom = MeasureRow.Of("coolerRoomMm"),
        FirstSlot = MeasureRow.Of("firstSlotFromSocketMm"),
        MemorySlot = MeasureRow.Of("memoryFromSocketMm"),
        MemoryHeight = MeasureRow.Of("memoryHeightMm");

    /// <summary>Every rule of its room; how far its fan is raised, mm, and whether it has to be turned by a quarter.</summary>
    public static (double RaisedMm, bool Turned) Check(Build build, CoolerPart cooler, List<FitReason> reasons)
    {
        List<FitReason> straight = [];
        double raised = Rules(build, cooler, straight);
        if (cooler.CanTurn == true && straight.Exists(reason => TurnsWith(reason.Code)))
        {
            List<FitReason> turned = [];
            double raisedTurned = Rules(build, Turned(cooler), turned);
            if (turned.TrueForAll(reason => reason.Code == FitCode.MeasureNeeded))
            {
                reasons.AddRange(turned);
                return (raisedTurned, true);
            }
        }

        reasons.AddRange(straight);
        return (raised, false);
    }

    /// <summary>Reasons of one side, which another side may not have.</summary>
    private static bool TurnsWith(FitCode code) =>
        code is FitCode.Memory or FitCode.TooTall or FitCode.FirstSlot or FitCode.HeatSink or FitCode.CaseFan;

    /// <summary>As it stands when it is turned so that its fan looks at the card and it blows upwards.</summary>
    public static CoolerPart Turned(CoolerPart cooler) =>
        cooler with
        {
            ReachTowardMemoryMm = cooler.ReachTowardTopMm,
            ReachTowardTopMm = cooler.ReachTowardRearMm,
            ReachTowardRearMm = cooler.ReachTowardSlotMm,
            ReachTowardSlotMm = cooler.ReachTowardMemoryMm,
            // Over the memory there are fins now, and they do not go up.
            ClearanceUnderFanMm = cooler.ClearanceUnderFinsMm,
            FanCanRiseMm = 0,
        };

    /// <summary>Where tall parts of the board are known: whether it stands on them.</summary>
    private static void TallParts(Build build, CoolerPart cooler, List<FitReason> reasons)
    {
        foreach (HeatSink part in build.Board?.HeatSinks ?? [])
        {
            bool underFan = part.Side == HeatSink.MemorySide;
            if (ReachTo(part.Side, cooler) is not { } reach)
            {
                reasons.Add(Measure($"how far the cooler stands out towards the board’s {part.Words}"));
            }
            else if (reach > part.FromSocketMm)
            {
                if ((underFan ? cooler.ClearanceUnderFanMm : cooler.ClearanceUnderFinsMm) is not { } room)
                {
                    reasons.Add(Measure($"how much room there is below the cooler’s {(underFan ? "fan" : "fins")}"));
                }
                else if (part.HeightMm > room)
                {
                    reasons.Add(
                        new FitReason(
                            FitCode.HeatSink,
                            Round(part.HeightMm - room),
                            $"The board’s {part.Words} is {Mm(part.HeightMm)} high, and below its {(underFan ? "fan" : "fins")} there is "
                                + $"room for {Mm(room)}: {Mm(part.HeightMm - room)} too high."
                        )
                    );
                }
            }
        }
    }

    private static double? ReachTo(string side, CoolerPart cooler) =>
        side switch
        {
            HeatSink.Rear => cooler.ReachTowardRearMm,
            HeatSink.Top => cooler.ReachTowardTopMm,
            HeatSink.MemorySide => cooler.ReachTowardMemoryMm,
            _ => cooler.ReachTowardSlotMm,
        };

    /// <summary>Height, memory, tall parts, card and what is around; how far the fan is raised, mm.</summary>
    private static double Rules(Build build, CoolerPart cooler, List<FitReason> reasons)
    {
        double raised = Memory(build, cooler, reasons);
        TallParts(build, cooler, reasons);
        FitAround.Check(build, cooler, reasons);
        if (build.Case?.MaxCoolerHeightMm is not { } room)
        {
            reasons.Add(Measure(CoolerRoom, cooler.HeightMm + raised));
        }
        else if (cooler.HeightMm is not { } height)
        {
            reasons.Add(Measure("how high the cooler is"));
        }
        else if (height + raised > room)
        {
            reasons.Add(
                new FitReason(
                    FitCode.TooTall,
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
                    cooler.ReachTowardSlotMm is { } stands
                        ? Measure(FirstSlot, stands + (build.Graphics.BackPlateMm ?? 0))
                        : Measure("how far the cooler stands out towards the card")
                );
            }
            else if (slot - (build.Graphics.BackPlateMm ?? 0) is var free && reach > free)
            {
                reasons.Add(
                    new FitReason(
                        FitCode.FirstSlot,
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
            reasons.Add(
                Measure(
                    MemorySlot,
                    cooler.ReachTowardMemoryMm,
                    words: "from the socket’s centre to the first memory slot, and how high the memory is"
                )
            );
            return 0;
        }

        if (cooler.ReachTowardMemoryMm is not { } reach)
        {
            reasons.Add(Measure("how far the cooler stands out towards the memory"));
            return 0;
        }

        if (build.Board?.MemoryFromSocketMm is not { } away)
        {
            reasons.Add(Measure(MemorySlot, reach));
            return 0;
        }

        if (reach <= away)
        {
            return 0;
        }

        if (build.Memory?.HeightMm is not { } height)
        {
            reasons.Add(Measure(MemoryHeight, atMostMm: cooler.ClearanceUnderFanMm + (cooler.FanCanRiseMm ?? 0)));
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
            reasons.Add(Measure($"whether its fan can be raised by {Mm(over)}, which the memory needs"));
            return 0;
        }

        double rise = cooler.FanCanRiseMm ?? 0;
        if (over > rise)
        {
            reasons.Add(
                new FitReason(
                    FitCode.Memory,
                    Round(over - rise),
                    $"Memory of {Mm(height)} stands under its fan, where there is room for "
                        + $"{Mm(clearance)}{(rise > 0 ? $" and {Mm(rise)} more with the fan raised" : "")}: {Mm(over - rise)} too high."
                )
            );
            return 0;
        }

        return Math.Max(0, Round(over));
    }
}
