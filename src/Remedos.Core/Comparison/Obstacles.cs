namespace Remedos.Core.Comparison;

/// <summary>What stands in the way of a fair comparison, and what would remove it. Checked before any arithmetic.</summary>
public static class Obstacles
{
    private const double RoomC = 0.5,
        PowerShare = 0.05,
        FanShare = 0.05,
        CardW = 60,
        RatedShare = 0.02;

    /// <summary>Paste gains its last degree or two in the first days, h.</summary>
    private const double PasteSettlesHours = 24;

    /// <summary>All obstacles between two sides, the blocking ones first found.</summary>
    public static IReadOnlyList<Obstacle> Between(
        IReadOnlyList<ConditionedRun> before,
        IReadOnlyList<ConditionedRun> after,
        Subject subject = Subject.Processor
    )
    {
        List<Obstacle> found = [];
        Missing(found, before, "before", subject);
        Missing(found, after, "after", subject);
        if (before.Count == 0 || after.Count == 0)
        {
            return found;
        }

        Conditions(found, before, after);
        Machine(found, before, after);
        Card(found, before, after, subject);
        if (found.All(obstacle => obstacle.Severity != ObstacleWeight.Blocking))
        {
            Corrected(found, before, after, subject);
        }

        Notes(found, before, after);
        return found;
    }

    /// <summary>Whether fan speeds of the two sides mean the same: another kind of cooler carries other fans.</summary>
    internal static bool SameFan(IReadOnlyList<ConditionedRun> before, IReadOnlyList<ConditionedRun> after) =>
        before.Concat(after).Select(run => run.Conditions.CoolerKind).OfType<string>().Distinct().Count() < 2;

    private static void Conditions(List<Obstacle> found, IReadOnlyList<ConditionedRun> before, IReadOnlyList<ConditionedRun> after)
    {
        ConditionSides sides = new(found, before, after);
        sides.MustBeEqual(
            "workload",
            "Load",
            run => run.Workload?.Trim().ToLowerInvariant(),
            "Run the same load on both sides: one more after run with “{0}”."
        );
        sides.MustBeEqual("panel", "Side panel", run => run.Panel, "Make one more after run with the panel as before: {0}.");
        sides.MustBeEqual("fan-policy", "Fans", run => run.FanPolicy, "Make one more after run with the fans as before: {0}.");
        if (before.Concat(after).All(run => run.Conditions.FanPolicy == "fixed"))
        {
            sides.MustBeEqual(
                "fan-percent",
                "Fixed fan speed",
                run => run.FanRpm is { } rpm ? $"{rpm:0} rpm" : ConditionSides.Number(run.FanPercent, "%"),
                "Make one more after run with the fans fixed at {0}."
            );
        }

        sides.Cap("power-cap", "Power cap", run => run.PowerCapW, "W");
        sides.Cap("clock-lock", "Clock lock", run => run.ClockLockMHz, "MHz");
        sides.Cap("voltage-lock", "Voltage lock", run => run.VoltageLockV, "V");
        sides.MustBeEqual(
            "card-load",
            "Graphics card’s load",
            run => run.CardLoad,
            "Make one more after run with the card’s load as before: {0}.",
            tellUnknown: false
        );
    }

    private static void Machine(List<Obstacle> found, IReadOnlyList<ConditionedRun> before, IReadOnlyList<ConditionedRun> after)
    {
        double[] rated = [.. before.Concat(after).Select(run => run.Conditions.RatedPowerW).OfType<double>().Order()];
        int[] cores = [.. before.Concat(after).Select(run => run.Analysis.Cores).OfType<int>().Distinct().Order()];
        if (rated.Length > 1 && rated[^1] - rated[0] > RatedShare * rated[^1])
        {
            found.Add(
                new Obstacle(
                    "processor-differs",
                    ObstacleWeight.Blocking,
                    $"Different processors: rated {rated[0]:0} and {rated[^1]:0} W.",
                    "Compare runs of one processor, or note its rated power alike."
                )
            );
        }
        else if (cores.Length > 1)
        {
            found.Add(
                new Obstacle(
                    "processor-differs",
                    ObstacleWeight.Blocking,
                    $"Different processors: the logs tell {cores[0]} and {cores[^1]} cores.",
                    "Compare runs of one processor."
                )
            );
        }

        double[] limits = [.. before.Concat(after).Select(run => run.Conditions.TemperatureLimitC).OfType<double>().Distinct().Order()];
        if (limits.Length > 1)
        {
            found.Add(
                new Obstacle(
                    "limit-differs",
                    ObstacleWeight.Note,
                    $"Temperature limit {Degrees.Point(limits[0]):0} and {Degrees.At(limits[^1])}: what it can hold is told "
                        + $"at each side’s own.",
                    "Note the limit alike if it was not changed."
                )
            );
        }
    }

    private static void Card(
        List<Obstacle> found,
        IReadOnlyList<ConditionedRun> before,
        IReadOnlyList<ConditionedRun> after,
        Subject subject
    )
    {
        static double? Watts(IReadOnlyList<ConditionedRun> runs) =>
            runs.All(run => run.Analysis.Beside?.GraphicsPowerW is not null)
                ? runs.Average(run => run.Analysis.Beside!.GraphicsPowerW)
                : null;
        if (subject == Subject.Processor && Watts(before) is { } then && Watts(after) is { } now && Math.Abs(then - now) > CardW)
        {
            found.Add(
                new Obstacle(
                    "card-power-differs",
                    ObstacleWeight.Blocking,
                    $"The graphics card drew {now:0} W after, {then:0} W before; it heats the air that the cooler breathes.",
                    "Make one more after run with the card’s load as before."
                )
            );
        }

        static double? Chip(IReadOnlyList<ConditionedRun> runs) =>
            runs.All(run => run.Analysis.Load?.SustainedPowerW is not null)
                ? runs.Average(run => run.Analysis.Load!.SustainedPowerW)
                : null;
        if (
            subject == Subject.Graphics
            && Chip(before) is { } chipThen
            && Chip(after) is { } chipNow
            && Math.Abs(chipThen - chipNow) > CardW
        )
        {
            found.Add(
                new Obstacle(
                    "processor-power-differs",
                    ObstacleWeight.Note,
                    $"The processor drew {chipNow:0} W after, {chipThen:0} W before; some of that is in the card’s air.",
                    "A run of the card alone tells its own part."
                )
            );
        }
    }

    private static void Missing(List<Obstacle> found, IReadOnlyList<ConditionedRun> runs, string side, Subject subject)
    {
        void Block(string code, string message, string remedy) => found.Add(new Obstacle(code, ObstacleWeight.Blocking, message, remedy));
        if (runs.Count == 0)
        {
            Block($"no-{side}-run", $"There is no {side} run.", $"Record the {side} run.");
            return;
        }

        if (subject == Subject.Graphics)
        {
            if (runs.Any(run => run.Analysis.Graphics is null))
            {
                Block(
                    "no-card-load",
                    $"The graphics card’s temperature under load is not in the {side} run.",
                    "Record again with the card at work and its temperature in the log."
                );
                return;
            }

            if (runs.Any(run => run.Analysis.Graphics!.PowerW is null))
            {
                Block(
                    "no-card-power",
                    $"The graphics card’s power is not in the {side} run.",
                    "Record again with the card’s power in the log."
                );
            }
        }
        else if (runs.Any(run => run.Analysis.Load is null))
        {
            Block("no-load", $"No load was found in the {side} run.", "Record idle, full load and cool-down in one log.");
            return;
        }
        else if (runs.Any(run => run.Analysis.Load!.SustainedPowerW is null))
        {
            Block("no-power", $"The {side} run has no power reading.", "Record again with the processor’s power in the log.");
        }

        if (runs.Any(run => run.Analysis.AmbientC is null))
        {
            Block(
                "room-unknown",
                $"The room’s temperature of the {side} run is not known.",
                $"Note the room’s temperature on the {side} run."
            );
        }
    }

    private static void Corrected(
        List<Obstacle> found,
        IReadOnlyList<ConditionedRun> before,
        IReadOnlyList<ConditionedRun> after,
        Subject subject
    )
    {
        void Add(string code, string message, string remedy = "") =>
            found.Add(new Obstacle(code, ObstacleWeight.Corrected, message, remedy));
        Reading[] then = Comparer.Readings(before, subject, "before"),
            now = Comparer.Readings(after, subject, "after");
        if (then.Length == 0 || now.Length == 0)
        {
            return;
        }

        double roomThen = then.Average(run => run.RoomC),
            roomNow = now.Average(run => run.RoomC);
        if (Math.Abs(roomThen - roomNow) > RoomC)
        {
            Add("room-differs", $"Room {Degrees.Point(roomNow):0.0} against {Degrees.At(roomThen, "0.0")}; both are taken at the latter.");
        }

        double wattsThen = then.Average(run => run.PowerW),
            wattsNow = now.Average(run => run.PowerW);
        if (Math.Abs(wattsThen - wattsNow) > PowerShare * wattsThen)
        {
            Add(
                "power-differs",
                $"{wattsNow:0} W against {wattsThen:0} W: compared per watt of its own heat, without what board and card put into the case."
            );
        }

        foreach (
            (Reading[] readings, IReadOnlyList<ConditionedRun> runs, string side) in new[]
            {
                (then, before, "before"),
                (now, after, "after"),
            }
        )
        {
            if (readings.Any(run => run.AtLimit))
            {
                Add("throttled", $"The {side} run throttled at the limit; its watts are counted as they were.");
            }

            if (
                subject == Subject.Processor
                && runs.FirstOrDefault(run => run.Analysis.Load!.Settled == false)?.Analysis.Load
                    is { ForecastFinalTemperatureC: { } final } open
            )
            {
                double gap = final - open.SustainedTemperatureC;
                Add(
                    "not-settled",
                    $"The {side} run was stopped {Degrees.By(Math.Abs(gap), "0.0")} {(gap > 0 ? "short of" : "above")} "
                        + $"level; compared by where it "
                        + $"was going.",
                    "A longer load makes it sharper."
                );
            }
        }

        double? fanThen = then.Average(run => run.Fan?.Rpm),
            fanNow = now.Average(run => run.Fan?.Rpm);
        if (fanThen is > 0 && fanNow is > 0 && Math.Abs(fanNow.Value - fanThen.Value) > FanShare * fanThen)
        {
            if (SameFan(before, after))
            {
                Add(
                    "fan-speed-differs",
                    $"Fan at {fanNow:0} rpm after, {fanThen:0} before; compared at {fanThen:0} rpm, and the fan’s part is told apart.",
                    "A run a side with the fans fixed makes it sharper."
                );
            }
            else
            {
                found.Add(
                    new Obstacle(
                        "fan-speed-differs",
                        ObstacleWeight.Note,
                        $"Fan at {fanNow:0} rpm after, {fanThen:0} before, on another kind of cooler: turns of other fans are not the "
                            + $"same, so they are compared as they ran.",
                        then.Concat(now).All(run => run.SoundDba is not null)
                            ? ""
                            : "A sound reading on both sides compares them at equal noise."
                    )
                );
            }
        }
    }

    private static void Notes(List<Obstacle> found, IReadOnlyList<ConditionedRun> before, IReadOnlyList<ConditionedRun> after)
    {
        void Note(string code, string message, string remedy = "") => found.Add(new Obstacle(code, ObstacleWeight.Note, message, remedy));
        if (after[0].Conditions.HoursSinceMount is < PasteSettlesHours and { } hours)
        {
            Note(
                "paste-fresh",
                $"The after run stands {hours:0.#} h after mounting; new paste may still gain a degree or two.",
                "A second after run in a day or two tells."
            );
        }

        if (
            before
                .Concat(after)
                .Any(run => run.Analysis.Load is { WindowEndSeconds: var end, WindowStartSeconds: var start } && end - start < 60)
        )
        {
            Note(
                "short",
                "A load phase is shorter than five minutes, so the slow part of the heat path is hardly seen.",
                "Ten minutes of load or more."
            );
        }

        if (before.Concat(after).Any(run => run.Mount is null))
        {
            Note(
                "mounts-unknown",
                "Nothing says which runs share a mount; each log is taken for a mount of its own.",
                "Name the mount in the conditions of each run."
            );
        }

        foreach (string changed in before.Concat(after).Select(run => run.Conditions.Changed).OfType<string>().Distinct())
        {
            Note("changed", $"Also changed: {changed.Trim().TrimEnd('.')}.");
        }
    }
}
