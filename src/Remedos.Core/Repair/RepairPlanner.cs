using Remedos.Core.Machines;
using Remedos.Core.Matching;

namespace Remedos.Core.Repair;

/// <summary>Composes the steps of a repair (docs/science.md, “A repair's steps”).</summary>
public static class RepairPlanner
{
    /// <summary>A socket of which nobody knows the screws is taken to have so many.</summary>
    private const int UsualScrews = 4;

    /// <summary>What cannot be planned, as a sentence; null when it can.</summary>
    public static string? Problem(RepairFacts facts) =>
        facts.Acts.Count == 0 ? "Nothing is chosen that could be planned: choose what is to be done."
        : facts.Acts.FirstOrDefault(act => RepairRow.All.All(row => row.Id != act)) is { } unknown
            ? $"“{unknown}” is nothing that can be done to a machine; "
                + $"known are {string.Join(", ", RepairRow.All.Select(row => row.Id))}."
        : IsSwap(facts) && facts.CoolerOn is null ? "Which cooler goes on is not chosen yet: choose it on the Coolers page."
        : facts.CoolerOn is { } cooler && !CoolerPart.Kinds.Contains(cooler.Kind) ? $"“{cooler.Kind}” is no kind of cooler."
        : facts is { DoesNotFit: { } why, CoolerOn: { } odd }
            ? $"{odd.Name} does not go in: {why} Choose another, or correct the measure if it is wrong."
        : facts.CoolerOn?.Kind == "liquid" && facts.CoolerOn.Place is null
            ? $"Where the radiator of {facts.CoolerOn.Name} goes is not known: no place of this case takes it."
        : null;

    /// <summary>The plan for facts whose <see cref="Problem"/> is null.</summary>
    /// <exception cref="ArgumentException">The facts have a problem.</exception>
    public static RepairPlan Of(RepairFacts facts)
    {
        if (Problem(facts) is { } problem)
        {
            throw new ArgumentException(problem, nameof(facts));
        }

        SocketPattern? socket = SocketPattern.All.FirstOrDefault(one => one.Id == facts.Socket);
        HashSet<string> marks = MarksOf(facts, socket);
        IReadOnlyList<int> order = TorqueOrder.Of(socket?.Screws ?? UsualScrews);
        PasteAmount? paste = socket is null ? null : PasteAmount.Of(socket.SpreaderAcrossMm, socket.SpreaderAlongMm);
        (string Name, string Value)[] words = [.. StepWords.Of(facts, socket, paste).Select(pair => (pair.Key, pair.Value))];
        string Filled(string text) =>
            words.Aggregate(text, (filled, word) => filled.Replace($"{{{word.Name}}}", word.Value, StringComparison.Ordinal)).Trim();
        StepRow[] rows = [.. StepRow.All.Where(row => row.When.All(condition => Marks.Holds(condition, marks)))];
        // Where the cooler is not lifted, it is another machine after the last thing that was done to it.
        StepRow changes = rows.FirstOrDefault(row => row.Mounts)
            ?? rows.Last(row => row.Stage is StepStage.Clean or StepStage.Work or StepStage.Settings && row.Id != SettingsBack);
        IEnumerable<string> used = rows.SelectMany(row => row.Uses ?? [])
            .Concat(marks.Contains(Marks.Kit) ? ["mounting kit for {socket}"] : [])
            .Select(Filled)
            .Distinct(StringComparer.Ordinal);
        PlanStep[] steps =
        [
            .. rows.Select(row => new PlanStep(
                row.Id,
                row.Stage,
                Filled(row.Title),
                Filled(row.How),
                row.Why.Replace("{socket}", socket?.Id ?? "this socket", StringComparison.Ordinal),
                row.Minutes,
                row.Hold,
                row.Ask,
                row.Unit,
                row.Least,
                row.Id == ChipRise ? facts.FirstPowerMaxC ?? row.Most : row.Most,
                row.Outside,
                row.Caution,
                row.Drawing,
                row.Tools ?? [],
                row.Baseline,
                row.Irreversible,
                row.UndoneBy,
                row == changes,
                row.Drawing == "screw-order"
                    ? row.Id == "card-leads"
                        ? TorqueOrder.Of(UsualScrews)
                        : order
                    : null,
                row.Drawing == "paste-dot" ? paste?.Dots ?? 1 : null
            )
            {
                Suggested = row.Id == PartsUsed ? [.. used] : [],
            }),
        ];
        return new RepairPlan(
            TitleOf(facts),
            steps,
            steps.Where(step => step.Hold != StepHold.Run).Sum(step => step.Minutes),
            [.. steps.SelectMany(step => step.Tools).Distinct()]
        );
    }

    /// <summary>Minutes of labour for one act on a machine.</summary>
    /// <param name="on">The cooler that goes on, where the act is another one; null for one of the kind that comes off.</param>
    public static double MinutesOf(RepairFacts machine, string act, NewCooler? on = null) =>
        Of(
            machine with
            {
                Acts = [act],
                CoolerOn = RepairRow.IsAnotherCooler(act) ? on ?? NewCooler.OfKind(machine.CoolerOff ?? UsualKind) : null,
            }
        ).Minutes;

    /// <summary>Of a cooler of which nothing is known.</summary>
    public const string UsualKind = "tower";

    private const string ChipRise = "chip-rise",
        PartsUsed = "parts-used",
        SettingsBack = "settings-back";

    /// <summary>What the acts are called, together.</summary>
    public static string TitleOf(RepairFacts facts) =>
        facts.CoolerOn is { } cooler && IsSwap(facts)
            ? $"Fit {cooler.Name}"
            : string.Join(", ", facts.Acts.Select((act, i) => i == 0 ? RepairRow.Of(act).Name : Lower(RepairRow.Of(act).Name)));

    private static string Lower(string name) => char.ToLowerInvariant(name[0]) + name[1..];

    private static bool IsSwap(RepairFacts facts) => facts.Acts.Any(RepairRow.IsAnotherCooler);

    private static HashSet<string> MarksOf(RepairFacts facts, SocketPattern? socket)
    {
        bool Does(params string[] acts) => facts.Acts.Any(acts.Contains);
        bool opens = facts.Acts.Any(act => RepairRow.Of(act).Opening != "nothing"),
            swaps = IsSwap(facts),
            lifts = facts.Acts.Any(act => RepairRow.Of(act).Opening == "cooler"),
            card = Does("card"),
            modifies = Does("modify-case"),
            fan = Does(RepairRow.ReplaceFan, "turn-fan", "quiet-part"),
            settings = Does("re-steer", "cap-power", "lift-limit", "undervolt", "release-clock");
        string? on = swaps ? facts.CoolerOn!.Kind : facts.CoolerOff;
        bool wide = swaps ? facts.CoolerOn!.OverMemory || on == "dual-tower" : lifts && facts.CoolerOff == "dual-tower";
        bool pins = socket?.Fastening == SocketPattern.ByPins;
        HashSet<string> marks = new(StringComparer.Ordinal);
        void Mark(string mark, bool holds)
        {
            if (holds)
            {
                marks.Add(mark);
            }
        }

        Mark(Marks.Always, true);
        Mark(Marks.Opens, opens);
        Mark(Marks.Lifts, lifts);
        Mark(Marks.Swaps, swaps);
        Mark(Marks.Kit, Does("mounting-kit"));
        Mark(Marks.Cleans, Does(RepairRow.Clean));
        Mark(Marks.FanWork, fan);
        Mark(Marks.FanSwap, Does(RepairRow.ReplaceFan, "quiet-part"));
        Mark(Marks.FanTurn, Does("turn-fan"));
        Mark(Marks.Quiet, Does("quiet-part"));
        Mark(Marks.Airflow, Does("airflow"));
        Mark(Marks.Tidies, Does("tidy-cables"));
        Mark(Marks.Modifies, modifies);
        Mark(Marks.BoardOut, modifies);
        Mark(Marks.CardWork, card);
        Mark(
            Marks.CardOut,
            facts.HasCard != false && (card || modifies || (lifts && (swaps || on is not "down-draught" and not "liquid")))
        );
        Mark(Marks.MemoryOut, wide);
        Mark(Marks.Screws, !pins);
        Mark(Marks.PushPins, pins);
        Mark(Marks.LoosePlate, socket?.LoosePlate == true);
        Mark(Marks.WallScrews, facts.Obstacles.Contains(CaseObstacle.WallScrews));
        Mark(Marks.OddBracket, facts.Obstacles.Contains(CaseObstacle.OddBracket));
        Mark(Marks.OwnFans, facts.Obstacles.Contains(CaseObstacle.OwnFans));
        Mark(Marks.Hangs, swaps && on == "liquid");
        Mark(Marks.TakesBays, swaps && facts.CoolerOn!.TakesBays);
        Mark(Marks.OffLoop, swaps && facts.CoolerOff == "liquid");
        Mark(Marks.LoopStays, opens && on == "liquid");
        Mark(Marks.OnAir, on != "liquid");
        Mark(Marks.Fans, on != "passive" || facts.Fans.Count > 0 || fan || Does("airflow"));
        Mark(Marks.LiquidMetal, facts.LiquidMetal && lifts);
        Mark(Marks.Warranty, facts.Acts.Any(act => facts.EndsWarranty.Contains(RepairRow.Of(act).Opening)));
        Mark(Marks.NoClosedRun, !facts.HasClosedRun && facts.Boots);
        Mark(Marks.NoFixedRun, !facts.HasFixedRun && facts.Boots);
        Mark(Marks.NoBoot, !facts.Boots);
        Mark(Marks.Settings, settings);
        Mark(Marks.Steers, Does("re-steer") || facts.Curves.Count > 0);
        Mark(Marks.Caps, Does("cap-power"));
        Mark(Marks.Undervolts, Does("undervolt"));
        Mark(Marks.LiftsLimit, Does("lift-limit"));
        Mark(Marks.Releases, Does("release-clock"));
        Mark(Marks.Software, Does("clean-software"));
        Mark(Marks.Misreads, Does("trust-another"));
        Mark(Marks.Moves, Does("move"));
        return marks;
    }
}
