using Remedos.Core.Machines;
using static Remedos.Core.Matching.Fit;

namespace Remedos.Core.Matching;

/// <summary>
/// What stands behind and beside a cooler, what it leaves, and what one has to know of it. Held only against what was measured.
/// </summary>
internal static class FitAround
{
    /// <summary>A case fan that hangs inside, mm.</summary>
    private const double FanThicknessMm = 25;

    public static void Check(Build build, CoolerPart cooler, List<FitReason> reasons)
    {
        if (cooler.BackPlateMm is { } plate && build.Case?.BehindBoardMm is { } behind && plate > behind)
        {
            reasons.Add(
                new FitReason(
                    FitCode.BehindBoard,
                    Round(plate - behind),
                    $"Its back plate stands {Mm(plate)} out behind the board; there is room for {Mm(behind)}, {Mm(plate - behind)} less."
                )
            );
        }

        if (!cooler.IsLiquid && RearFanGap(build, cooler) is { } gap && gap < 0)
        {
            reasons.Add(
                new FitReason(
                    FitCode.CaseFan,
                    Round(-gap),
                    $"It stands {Mm(cooler.ReachTowardRearMm!.Value)} out towards the rear, and the fan there begins "
                        + $"{Mm(-gap)} before that."
                )
            );
        }
    }

    /// <summary>What one has to know although it fits, a sentence each.</summary>
    public static IEnumerable<string> Notes(Build build, CoolerPart cooler, IReadOnlyList<string> plugs)
    {
        if (
            cooler is { IsLiquid: true, RadiatorSizeMm: { } size, Fans: { Count: > 0 } fans }
            && fans.Count * (fans[0].ReckonedMm) is var blown
            && size - blown > Fan.UsualMm / 2
        )
        {
            yield return $"Its radiator is {Mm(size)} long and has fans for {Mm(blown)}: the rest of it is hardly blown through.";
        }

        // A header that nothing hangs on is taken for a fan that stands.
        if (plugs.Count > 0 && CpuHeader(build.Board) is { } own && IsEmpty($" on {own.Name}", plugs))
        {
            yield return $"Nothing of it hangs on {own.Name}: the firmware may stop and say that no cooler is there. Plug one "
                + "fan in there, or switch that warning off.";
        }
    }

    /// <summary>The room that is left, the tightest first.</summary>
    /// <param name="place">Where its radiator hangs.</param>
    public static IReadOnlyList<FitRoom> Left(Build build, CoolerPart cooler, double raisedMm, string? place)
    {
        List<FitRoom> left = [];
        void Add(string to, double? room, double? needs)
        {
            if (room is { } has && needs is { } takes && has >= takes)
            {
                left.Add(new FitRoom(to, Round(has - takes)));
            }
        }

        Add("what is behind the board", build.Case?.BehindBoardMm, cooler.BackPlateMm);
        if (!cooler.IsLiquid)
        {
            Add("the side panel", build.Case?.MaxCoolerHeightMm, cooler.HeightMm + raisedMm);
            Add(
                "the card",
                build.Board?.FirstSlotFromSocketMm - (build.Graphics?.BackPlateMm ?? 0),
                build.Graphics is null ? null : cooler.ReachTowardSlotMm
            );
            Add("the memory", build.Board?.MemoryFromSocketMm, cooler.ReachTowardMemoryMm);
            Add("the fan at the rear", RearFanGap(build, cooler), 0);
        }
        else if (build.Case?.Radiators?.FirstOrDefault(one => one.Place == place) is { } hung)
        {
            Add($"what stands before it at the {hung.Place}", hung.MaxThicknessMm, cooler.RadiatorThicknessMm);
            Add("the ends of its place", hung.MaxLengthMm, cooler.RadiatorLengthMm);
            Add("the end of its hoses", cooler.HoseMm, hung.HoseNeedMm);
            if (hung.Place == "bottom")
            {
                Add("the card’s fans", build.Case.SlotToBottomMm - build.Graphics?.ThicknessMm, cooler.RadiatorThicknessMm);
            }

            if (hung.Place == "front" && build.Graphics is not null)
            {
                Add("the card", build.Case.MaxCardLengthMm, build.Graphics.LengthMm + cooler.RadiatorThicknessMm);
            }
        }

        left.Sort((one, other) => one.LeftMm.CompareTo(other.LeftMm));
        return left;
    }

    /// <summary>Between the cooler and a case fan behind it, mm; null where one of them is not known.</summary>
    private static double? RearFanGap(Build build, CoolerPart cooler) =>
        build.Case is { RearFromSocketMm: { } wall, Fans: { } fans } && cooler.ReachTowardRearMm is { } reach && HasRearFan(fans)
            ? wall - FanThicknessMm - reach
            : null;

    private static Header? CpuHeader(BoardPart? board)
    {
        for (int i = 0; i < (board?.Headers?.Count ?? 0); i++)
        {
            if (board!.Headers![i].SteeredBy == "cpu")
            {
                return board.Headers[i];
            }
        }

        return null;
    }

    private static bool IsEmpty(string onIt, IReadOnlyList<string> plugs)
    {
        for (int i = 0; i < plugs.Count; i++)
        {
            if (plugs[i].Contains(onIt, StringComparison.Ordinal))
            {
                return false;
            }
        }

        return true;
    }

    private static bool HasRearFan(IReadOnlyList<FanNote> fans)
    {
        for (int i = 0; i < fans.Count; i++)
        {
            if (fans[i].Place == "rear")
            {
                return true;
            }
        }

        return false;
    }
}
