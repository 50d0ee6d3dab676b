using Remedos.Core.Diagnosis;

namespace Remedos.Core.Practice;

/// <summary>What a question of a case was worth.</summary>
/// <param name="Id">The evidence, or the variant of a run.</param>
/// <param name="Answer">What it tells of this machine, a phrase each.</param>
/// <param name="Bits">By how much its answer alone turns the odds towards what is really needed, log₂; below 0 it leads astray.</param>
/// <param name="Minutes">Of hands.</param>
/// <param name="Made">Whether the trainee made it.</param>
public sealed record DebriefRow(string Id, string Title, IReadOnlyList<string> Answer, double Bits, double Minutes, bool Made);

/// <summary>How probable what is really needed was after each thing that was asked, seen or run.</summary>
/// <param name="Share">0 … 1.</param>
public sealed record DebriefStep(string Title, double Share);

/// <summary>
/// Where the information lay: what each question would have told of this very machine, and how the odds moved with what was asked.
/// </summary>
/// <param name="Causes">What was wrong, a title each; empty for nothing.</param>
/// <param name="Rows">The most telling first.</param>
/// <param name="Path">Before the first repair.</param>
public sealed record Debrief(IReadOnlyList<string> Causes, IReadOnlyList<DebriefRow> Rows, IReadOnlyList<DebriefStep> Path)
{
    private const double LeastBits = 0.05;

    /// <summary>Of a case that was ended.</summary>
    /// <param name="seen">The case as the sheet had it: what its runs showed stands for what they would have shown.</param>
    public static Debrief Of(PracticeCase practice, PracticeStand done, DiagnosisCase? seen)
    {
        CaseMachine known = seen?.Machine ?? practice.Known with { ByKind = false };
        Witness witness = new(practice);
        CaseOnBench bench = new(practice.Machine, practice.Reference.Machine, practice.Faults, practice.Reference, practice.Seed);
        Dictionary<string, EvidenceItem[]> answers = new(StringComparer.Ordinal) { ["usual"] = [.. bench.Evidence] };
        // What was run after a repair tells of another machine.
        PracticeAct[] before = [.. done.Acts.TakeWhile(act => act.Kind != PracticeDeed.Repair)];
        HashSet<string> made = [.. before.Where(act => act.Kind != PracticeDeed.Hands).Select(act => act.Id)];
        if (before.Any(act => act.Id == PracticeStand.CoolerPrefix + CaseOnBench.KnownGood))
        {
            made.Add("known-good-cooler");
        }

        foreach (EvidenceRow row in DiagnosisTables.Evidence.Where(row => row.IsAskedOf(known)))
        {
            if (row.Kind is "symptom" or "look")
            {
                answers[row.Id] = witness.Tell(row.Id) is { } told ? [told] : [];
            }
            else if (row.Kind == "trial" && bench.Make(row.Id))
            {
                string[] its =
                [
                    row.Id,
                    .. DiagnosisTables.Evidence.Where(one => row.Variant is not null && one.Variant == row.Variant).Select(one => one.Id),
                ];
                answers[row.Variant ?? row.Id] = [.. bench.Evidence.Where(item => its.Contains(item.Id))];
            }
        }

        foreach ((string id, EvidenceItem[] its) in answers)
        {
            answers[id] = [.. its.Select(item => seen?.Evidence.FirstOrDefault(one => one.Id == item.Id) ?? item)];
        }

        double prior = Share(practice, known, []);
        DebriefRow[] rows =
        [
            .. answers
                .Where(pair => pair.Value.Length > 0)
                .Select(pair => new DebriefRow(
                    pair.Key,
                    TitleOf(pair.Key),
                    [.. pair.Value.Select(item => item.Id == pair.Key ? StateOf(item) : $"{TitleOf(item.Id)}: {StateOf(item)}")],
                    Math.Log2(Math.Max(1e-9, Share(practice, known, pair.Value)) / prior),
                    MinutesOf(pair.Key),
                    made.Contains(pair.Key)
                ))
                .Where(row => row.Made || Math.Abs(row.Bits) > LeastBits)
                .OrderByDescending(row => row.Bits)
                .ThenBy(row => row.Id, StringComparer.Ordinal),
        ];
        return new Debrief(
            [.. practice.Faults.Keys.Select(cause => DiagnosisTables.CauseOf(cause).Title)],
            rows,
            Walked(practice, known, done, answers)
        );
    }

    private static List<DebriefStep> Walked(
        PracticeCase practice,
        CaseMachine known,
        PracticeStand done,
        Dictionary<string, EvidenceItem[]> answers
    )
    {
        Dictionary<string, EvidenceItem> seen = new(StringComparer.Ordinal);
        List<DebriefStep> path = [new("As it came in", Share(practice, known, []))];
        foreach (PracticeAct act in done.Acts.TakeWhile(act => act.Kind != PracticeDeed.Repair))
        {
            if (!answers.TryGetValue(act.Id, out EvidenceItem[]? told) || told.Length == 0)
            {
                continue;
            }

            foreach (EvidenceItem item in told)
            {
                seen.TryAdd(item.Id, item);
            }

            path.Add(new DebriefStep(act.Title, Share(practice, known, [.. seen.Values])));
        }

        return path;
    }

    /// <summary>How probable it is that just what is really needed is needed.</summary>
    private static double Share(PracticeCase practice, CaseMachine known, IReadOnlyList<EvidenceItem> told)
    {
        double[] weights = DiagnosisNetwork.Prior(DiagnosisNetwork.Priors(known));
        foreach (EvidenceItem item in told)
        {
            if (DiagnosisNetwork.Likelihood(item, known) is { } likelihood)
            {
                Diagnoser.Multiply(weights, likelihood);
            }
        }

        int truth = DiagnosisNetwork.RepairGroups[Witness.SetOf(practice.Faults.Keys)];
        double total = weights.Sum(),
            needed = 0;
        for (int i = 0; i < weights.Length; i++)
        {
            needed += DiagnosisNetwork.RepairGroups[i] == truth ? weights[i] : 0;
        }

        return needed / total;
    }

    private static string TitleOf(string id) =>
        DiagnosisTables.EvidenceOf(id)?.Title ?? Bays.RunVariant.All.FirstOrDefault(variant => variant.Id == id)?.Title ?? id;

    private static double MinutesOf(string id) => DiagnosisTables.EvidenceOf(id) is { } row ? row.Minutes : Jobs.WorkMinutes.RunHands;

    private static string StateOf(EvidenceItem item) => item.State.Replace('-', ' ');
}
