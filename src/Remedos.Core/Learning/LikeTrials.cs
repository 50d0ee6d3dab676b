using System.Text.Json.Serialization;
using Remedos.Core.Comparison;
using Remedos.Core.Jobs;

namespace Remedos.Core.Learning;

/// <summary>What was tried against its like on one machine.</summary>
[JsonConverter(typeof(KebabEnum<TrialKind>))]
public enum TrialKind
{
    /// <summary>Two pastes.</summary>
    Paste,

    /// <summary>Two ways to put paste on.</summary>
    PasteMethod,

    /// <summary>Two mounting kits.</summary>
    MountingKit,

    /// <summary>One paste, as it was put on against what it comes to in the end.</summary>
    Settling,
}

/// <summary>A setup with all that it is.</summary>
/// <param name="Whole">Its difference, with what it has from the setups that it is like.</param>
public sealed record TriedSetup(SetupFacts Facts, SetupDifference Whole);

/// <summary>
/// What one machine says of two things that were tried in each other's place, all else as it was. Figures are at 100 W: so machines of
/// different watts can stand together.
/// </summary>
/// <param name="One">The first by its letters, as it was written.</param>
/// <param name="Other">The other; of a settling the same.</param>
/// <param name="ChangeC">From one to the other; negative is cooler, °C at 100 W.</param>
/// <param name="Runs">Behind it.</param>
public sealed record Trial(TrialKind Kind, string One, string Other, double ChangeC, int Runs)
{
    /// <summary>By what the squares of a bench's scatter between mounts and within one count in the variance of the change.</summary>
    public double MountWeight { get; init; }

    /// <inheritdoc cref="MountWeight"/>
    public double WithinWeight { get; init; }

    /// <summary>What of the variance is no scatter of the bench, °C² at 100 W.</summary>
    public double RestVariance { get; init; }

    /// <summary>Of a settling: until half of it has come, h.</summary>
    public double? HalfLifeHours { get; init; }

    /// <summary>The change with its standard error on a bench.</summary>
    public static Figure FigureOf(double changeC, double mountWeight, double withinWeight, double rest, Repeatability bench) =>
        new(changeC, Math.Sqrt((mountWeight * bench.MountC * bench.MountC) + (withinWeight * bench.WithinC * bench.WithinC) + rest));
}

/// <summary>Finds in a machine's setups what was tried against its like.</summary>
public static class LikeTrials
{
    /// <summary>Watts at which changes are told.</summary>
    public const double AtW = 100;

    /// <summary>A repair's plan notes this where nobody names the paste.</summary>
    public const string UnnamedPaste = "new paste";

    /// <summary>
    /// All pairs of setups that differ in one of paste, method and kit and in nothing else, and how each mount's paste settled. The machine
    /// as it came has no part in it, nor has what failed or sat badly, nor what has another repair between.
    /// </summary>
    /// <param name="setups">Of one machine, in the order of their numbers.</param>
    public static IReadOnlyList<Trial> Of(IReadOnlyList<TriedSetup> setups)
    {
        TriedSetup[] sound = [.. setups.Where(setup => setup.Facts is { Number: > 1, Failed: false, SatBadly: false, Runs.Count: > 0 })];
        Group[] groups =
        [
            .. sound
                .GroupBy(setup => Fixture.Of(setup.Whole))
                .Select(alike => new Group(
                    alike.Key,
                    alike.First().Whole,
                    [.. alike.Select(setup => setup.Facts.Number)],
                    [.. alike.SelectMany(setup => setup.Facts.Runs)]
                )),
        ];
        int[] repairs = [.. setups.Where(setup => setup.Facts.Kind == SetupKind.Repair).Select(setup => setup.Facts.Number)];
        List<Trial> trials = [];
        for (int i = 0; i < groups.Length; i++)
        {
            for (int j = i + 1; j < groups.Length; j++)
            {
                if (Between(groups[i], groups[j], repairs) is { } trial)
                {
                    trials.Add(trial);
                }
            }
        }

        trials.AddRange(groups.SelectMany(Settlings));
        return
        [
            .. trials
                .GroupBy(trial => (trial.Kind, Plain(trial.One), Plain(trial.Other)))
                // The same two with another cooler once more: the better known one stands for the machine.
                .Select(same =>
                    same.MinBy(trial =>
                        Trial.FigureOf(0, trial.MountWeight, trial.WithinWeight, trial.RestVariance, Repeatability.Prior).StandardError
                    )!
                ),
        ];
    }

    /// <summary>A name as it is told apart: without case and spaces about it.</summary>
    public static string Plain(string name) => name.Trim().ToLowerInvariant();

    private static Trial? Between(Group a, Group b, int[] repairs)
    {
        if (
            a.Fixture.DiffersFrom(b.Fixture) is not { } kind
            || Array.Exists(repairs, number => number > Math.Min(a.First, b.First) && number <= Math.Max(a.Last, b.Last))
            || NameOf(a, kind) is not { } one
            || NameOf(b, kind) is not { } other
            || AtOneAge(a.Runs, b.Runs) is not ({ } left, { } right)
        )
        {
            return null;
        }

        if (string.CompareOrdinal(Plain(one), Plain(other)) > 0)
        {
            (one, other, left, right) = (other, one, right, left);
        }

        (IReadOnlyList<ConditionedRun> before, IReadOnlyList<ConditionedRun> after) = RunPairing.Of(left, right);
        if (Comparer.Align(before, after, Subject.Processor).Aligned is not { } aligned)
        {
            return null;
        }

        double at = AtW / aligned.ReferencePowerW,
            squared = at * at;
        Design[] sides = [aligned.DesignOf(0), aligned.DesignOf(1)];
        return new Trial(kind, one, other, AtW * (aligned.MeanOf(1) - aligned.MeanOf(0)), before.Count + after.Count)
        {
            MountWeight = squared * sides.Sum(side => 1.0 / side.Mounts),
            WithinWeight = squared * sides.Sum(side => side.WithinWeight),
            RestVariance = squared * (sides.Sum(side => side.RoomC * side.RoomC / side.Mounts) + Math.Pow(aligned.SystematicC(0, 1), 2)),
        };
    }

    private static IEnumerable<Trial> Settlings(Group group) =>
        group.Whole.Paste is not { } paste || Plain(paste) == UnnamedPaste
            ? []
            : group
                .Runs.GroupBy(run => run.Mount)
                .Where(mount => mount.Key is not null)
                .SelectMany(mount => RunPairing.Alike([.. mount]))
                .Select(alike => (Runs: alike.Count, Settling: PasteSettling.Of(alike, Repeatability.Prior)))
                .Where(one => one.Settling is not null)
                .Select(one =>
                {
                    double at = AtW / one.Settling!.PowerW;
                    return new Trial(TrialKind.Settling, paste.Trim(), paste.Trim(), at * one.Settling.GainC, one.Runs)
                    {
                        RestVariance = Math.Pow(at * one.Settling.HalfWidthC / Figure.Sigma95, 2),
                        HalfLifeHours = one.Settling.HalfLifeHighHours is null ? null : one.Settling.HalfLifeHours,
                    };
                });

    /// <summary>Runs whose paste was of like age: settled ones where both have them, else fresh ones; null where neither is so.</summary>
    private static (IReadOnlyList<ConditionedRun> One, IReadOnlyList<ConditionedRun> Other)? AtOneAge(
        IReadOnlyList<ConditionedRun> one,
        IReadOnlyList<ConditionedRun> other
    )
    {
        foreach (bool settled in new[] { true, false })
        {
            ConditionedRun[] left = [.. one.Where(Is)],
                right = [.. other.Where(Is)];
            if (left.Length > 0 && right.Length > 0)
            {
                return (left, right);
            }

            bool Is(ConditionedRun run) =>
                run.Conditions.HoursSinceMount is { } hours && hours >= JobProgress.PasteSettles.TotalHours == settled;
        }

        return null;
    }

    private static string? NameOf(Group group, TrialKind kind)
    {
        string? name = kind switch
        {
            TrialKind.Paste => group.Whole.Paste,
            TrialKind.PasteMethod => group.Whole.PasteMethod,
            _ => group.Whole.MountingKit,
        };
        return string.IsNullOrWhiteSpace(name) || Plain(name) == UnnamedPaste ? null : name.Trim();
    }

    /// <summary>Setups that are the same thing.</summary>
    private sealed record Group(Fixture Fixture, SetupDifference Whole, int[] Numbers, IReadOnlyList<ConditionedRun> Runs)
    {
        public int First => Numbers.Min();

        public int Last => Numbers.Max();
    }

    /// <summary>How the cooler sits, and all else.</summary>
    private sealed record Fixture(string Paste, string Method, string Kit, string Rest)
    {
        public static Fixture Of(SetupDifference whole) =>
            new(
                Plain(whole.Paste ?? ""),
                Plain(whole.PasteMethod ?? ""),
                Plain(whole.MountingKit ?? ""),
                string.Join(
                    '\n',
                    new[]
                    {
                        whole.Cooler,
                        whole.CoolerKind,
                        whole.Fans,
                        whole.Steering,
                        whole.CaseAir,
                        whole.Settings,
                        whole.CardPaste,
                        whole.Changed,
                    }.Select(one => Plain(one ?? ""))
                )
            );

        /// <summary>In what alone it differs; null for nothing, or for more.</summary>
        public TrialKind? DiffersFrom(Fixture other) =>
            Rest != other.Rest
                ? null
                : (Paste != other.Paste, Method != other.Method, Kit != other.Kit) switch
                {
                    (true, false, false) => TrialKind.Paste,
                    (false, true, false) => TrialKind.PasteMethod,
                    (false, false, true) => TrialKind.MountingKit,
                    _ => null,
                };
    }
}
