using Remedos.Core.Diagnosis;

namespace Remedos.Validation;

/// <summary>How often the diagnosis was right with some evidence, of machines with something wrong.</summary>
/// <param name="Evidence">run and intake, after its own checks, or all.</param>
/// <param name="TopOne">Share of cases in which the most probable repair was one that was needed.</param>
/// <param name="TopThree">In which one of the three most probable causes was there.</param>
/// <param name="BothOfTwo">Of cases with two causes, in which both were among the three most probable.</param>
/// <param name="SoundAccused">Of sound machines, in which something was called wrong with 50 % or more.</param>
/// <param name="SoundNamed">Of sound machines, in which the sheet would name a fault.</param>
/// <param name="FaultNamed">Of the others, in which it would name one that is there.</param>
public sealed record AccuracyRow(
    string Evidence,
    double TopOne,
    double TopThree,
    double BothOfTwo,
    double SoundAccused,
    double SoundNamed,
    double FaultNamed
);

/// <summary>How often causes were there that were called so probable.</summary>
public sealed record DecileRow(double From, double To, int Count, double MeanSaid, double Found);

/// <summary>How a way of asking does.</summary>
/// <param name="Confident">Share of cases that came to a confident answer.</param>
/// <param name="Right">Share of all cases whose answer, in the end, was a repair that was needed, or rightly that nothing is.</param>
public sealed record PolicyRow(string Policy, double Checks, double Minutes, double Confident, double Right);

/// <summary>What was missed, by the cause that was there.</summary>
public sealed record MissRow(string Cause, int Cases, double TopOne, string Instead);

/// <summary>What sound machines were accused of, with all evidence, and the observation that spoke most for it.</summary>
public sealed record AccusedRow(string Cause, int Cases, string Because);

public sealed record DiagnosisReport(
    int Faulty,
    int Sound,
    IReadOnlyList<AccuracyRow> Accuracy,
    IReadOnlyList<DecileRow> Deciles,
    IReadOnlyList<PolicyRow> Policies,
    IReadOnlyList<MissRow> Misses,
    IReadOnlyList<AccusedRow> Accused
);

/// <summary>
/// Tries the diagnosis on simulated machines with up to two faults drawn by the tables' own priors, through the doors that the server uses:
/// runs are read and become evidence, the
/// diagnosis decides, its own next check is made. Machines are put together from parts that no likelihood was made from.
/// </summary>
public static class DiagnosisValidation
{
    private const double AskedSymptom = 0.8,
        AccusedAt = 0.5;

    private const int MostFaults = 2,
        MostChecks = 20;

    /// <summary>As one works through a machine from outside to inside, without a tool.</summary>
    private static readonly string[] FixedOrder =
    [
        "dust",
        "fan-wrong-way",
        "blade-blocked",
        "noise-source",
        "tube-difference",
        "leak-marks",
        "screws-loose",
        "standoffs-bottom-out",
        "panel-off-drop",
        "fans-full-drop",
        "capped-power",
        "pump-full-speed",
        "gpu-hot",
        "cooler-room",
        "paste-print",
        "film-left-on",
        "known-good-cooler",
    ];

    /// <summary>Runs it.</summary>
    /// <param name="cases">How many machines.</param>
    /// <param name="seed">Of the first.</param>
    /// <param name="byParts">Whether the workshop knows the machines' parts.</param>
    public static DiagnosisReport Run(int cases, int seed, bool byParts, MachinePool pool = MachinePool.HeldOut)
    {
        Outcome[] outcomes = new Outcome[cases];
        Parallel.For(0, cases, i => outcomes[i] = Try(SeedOf(seed, i), byParts, pool));
        Outcome[] faulty = [.. outcomes.Where(outcome => outcome.Faults.Count > 0)],
            sound = [.. outcomes.Where(outcome => outcome.Faults.Count == 0)];
        (double Said, bool There)[] said = [.. outcomes.SelectMany(outcome => outcome.Said)];
        return new DiagnosisReport(
            faulty.Length,
            sound.Length,
            [
                Accuracy("run and intake", faulty, sound, o => o.Intake),
                Accuracy("after its own checks", faulty, sound, o => o.Checked),
                Accuracy("all", faulty, sound, o => o.All),
            ],
            [.. Enumerable.Range(0, 10).Select(decile => Decile(said, decile / 10.0, (decile + 1) / 10.0))],
            [Policy("by what a check would tell", outcomes, o => o.ByInformation), Policy("in a fixed order", outcomes, o => o.InOrder)],
            [
                .. faulty
                    .Where(o => o.Faults.Count == 1)
                    .GroupBy(o => o.Faults.Keys.First())
                    .OrderBy(group => group.Average(o => o.Checked.TopOne ? 1.0 : 0))
                    .Select(group => new MissRow(
                        group.Key,
                        group.Count(),
                        group.Average(o => o.Checked.TopOne ? 1.0 : 0),
                        string.Join(
                            ", ",
                            group
                                .Where(o => !o.Checked.TopOne)
                                .GroupBy(o => o.Checked.Lead)
                                .OrderByDescending(lead => lead.Count())
                                .Take(3)
                                .Select(lead => $"{lead.Key} {lead.Count()}")
                        )
                    )),
            ],
            [
                .. sound
                    .Where(o => o.All.Accuses)
                    .GroupBy(o => o.All.First)
                    .OrderByDescending(group => group.Count())
                    .Select(group => new AccusedRow(group.Key, group.Count(), string.Join(", ", group.Select(o => o.All.Because)))),
            ]
        );
    }

    private sealed record Ranking(
        string Lead,
        bool TopOne,
        bool TopThree,
        bool? BothOfTwo,
        bool Accuses,
        bool Names,
        string First,
        string Because
    );

    private sealed record Way(
        int Checks,
        double Minutes,
        bool Confident,
        bool Right,
        Ranking Ranking,
        IReadOnlyList<(double Said, bool There)> Said
    );

    private sealed record Outcome(
        IReadOnlyDictionary<string, double> Faults,
        Ranking Intake,
        Ranking Checked,
        Ranking All,
        IReadOnlyList<(double Said, bool There)> Said,
        Way ByInformation,
        Way InOrder
    );

    private static Outcome Try(int seed, bool byParts, MachinePool pool)
    {
        Random random = new(seed);
        DrawnMachine drawn = DrawnMachine.Draw(pool, random, Faults);
        int chance = random.Next();
        SimulatedCase Fresh() => new(drawn, byParts, seed);
        List<EvidenceItem> symptoms = Symptoms(Fresh(), new Random(chance));
        SimulatedCase asked = Fresh(),
            ordered = Fresh();
        Ranking intake = Rank(new DiagnosisCase(asked.Machine, Known(asked, symptoms)), drawn.Faults);
        Way byInformation = Ask(asked, symptoms, drawn.Faults, answer =>
            answer.NextChecks.Where(check => check.ExpectedInformationBits >= DiagnosisStand.WorthBits).Select(check => check.Evidence)
        );
        Way inOrder = Ask(ordered, symptoms, drawn.Faults, _ => FixedOrder);
        // What its own checks left open is asked as well; nothing is done twice.
        List<EvidenceItem> told = [.. symptoms];
        foreach (EvidenceRow row in DiagnosisTables.Evidence)
        {
            asked.Make(row.Id);
            if (row.Kind is "look" or "symptom" && told.All(item => item.Id != row.Id) && asked.Tell(row.Id) is { } seen)
            {
                told.Add(seen);
            }
        }

        DiagnosisCase all = new(asked.Machine, Known(asked, told));
        return new Outcome(
            drawn.Faults,
            intake,
            byInformation.Ranking,
            Rank(all, drawn.Faults),
            [
                .. Said(new DiagnosisCase(drawn.Case with { ByKind = !byParts }, Known(Fresh(), symptoms)), drawn.Faults),
                .. byInformation.Said,
                .. Said(all, drawn.Faults),
            ],
            byInformation,
            inOrder
        );
    }

    private static List<EvidenceItem> Symptoms(SimulatedCase simulated, Random random) =>
        [
            .. DiagnosisTables
                .Evidence.Where(row => row.Kind == "symptom" && random.NextDouble() < AskedSymptom)
                .Select(row => simulated.Tell(row.Id))
                .OfType<EvidenceItem>(),
        ];

    /// <summary>As the server puts a case together: what was told goes before what was read off.</summary>
    private static List<EvidenceItem> Known(SimulatedCase simulated, IReadOnlyList<EvidenceItem> told) =>
        [.. told, .. simulated.OfRuns.Where(item => told.All(one => one.Id != item.Id))];

    private static Dictionary<string, double>? Faults(CaseMachine machine, Random random)
    {
        double[] priors = DiagnosisNetwork.Priors(machine);
        Dictionary<string, double> faults = [];
        for (int cause = 0; cause < priors.Length; cause++)
        {
            if (random.NextDouble() < priors[cause])
            {
                faults[DiagnosisTables.Causes[cause].Id] = DrawnMachine.Between(random, LikelihoodTables.WeakestSeverity, 1);
            }
        }

        return faults.Count <= MostFaults ? faults : null;
    }

    private static Way Ask(
        SimulatedCase simulated,
        IReadOnlyList<EvidenceItem> symptoms,
        IReadOnlyDictionary<string, double> faults,
        Func<DiagnosisAnswer, IEnumerable<string>> order
    )
    {
        List<EvidenceItem> told = [.. symptoms];
        HashSet<string> asked = [];
        double minutes = 0;
        while (true)
        {
            DiagnosisCase now = new(simulated.Machine, Known(simulated, told));
            DiagnosisAnswer answer = Diagnoser.Of(now);
            DiagnosisStand stand = DiagnosisStand.Of(answer);
            string? next =
                stand.IsSure || asked.Count >= MostChecks
                    ? null
                    : order(answer).FirstOrDefault(id => !asked.Contains(id) && now.Evidence.All(item => item.Id != id));
            if (next is null)
            {
                bool right = stand.Lead is null
                    ? faults.Count == 0
                    : faults.Keys.Any(fault => DiagnosisTables.CauseOf(fault).Repair == stand.Lead.Repair);
                return new Way(asked.Count, minutes, stand.IsSure, right, Rank(now, faults), [.. Said(now, faults)]);
            }

            asked.Add(next);
            EvidenceRow row = DiagnosisTables.EvidenceOf(next)!;
            bool done = row.Kind is "trial" or "run" ? simulated.Make(next) : simulated.Tell(next) is { } seen && Add(seen);
            minutes += done ? row.Minutes : 0;
            bool Add(EvidenceItem item)
            {
                told.Add(item);
                return true;
            }
        }
    }

    private static IEnumerable<(double Said, bool There)> Said(DiagnosisCase asked, IReadOnlyDictionary<string, double> faults) =>
        Diagnoser.Of(asked).Causes.Select(cause => (cause.Probability, faults.ContainsKey(cause.Id)));

    private static Ranking Rank(DiagnosisCase asked, IReadOnlyDictionary<string, double> faults)
    {
        DiagnosisAnswer answer = Diagnoser.Of(asked);
        string[] first = [.. answer.Causes.Take(3).Select(cause => cause.Id)];
        RepairAnswer repair = answer.Repairs[0];
        DiagnosisStand stand = DiagnosisStand.Of(answer);
        return new Ranking(
            stand.Lead?.Id ?? "sound",
            faults.Keys.Any(fault => DiagnosisTables.CauseOf(fault).Repair == repair.Id),
            first.Any(faults.ContainsKey),
            faults.Count == 2 ? faults.Keys.All(first.Contains) : null,
            answer.Causes[0].Probability >= AccusedAt,
            stand is { IsSound: false, Certainty: not null },
            answer.Causes[0].Id,
            answer.Causes[0].Reasons.MaxBy(reason => reason.Bits) is { } reason ? $"{reason.Evidence} {reason.State}" : ""
        );
    }

    private static AccuracyRow Accuracy(string evidence, Outcome[] faulty, Outcome[] sound, Func<Outcome, Ranking> of)
    {
        Ranking[] rankings = [.. faulty.Select(of)];
        return new AccuracyRow(
            evidence,
            Share(rankings, r => r.TopOne),
            Share(rankings, r => r.TopThree),
            Share([.. rankings.Where(r => r.BothOfTwo is not null)], r => r.BothOfTwo!.Value),
            Share([.. sound.Select(of)], r => r.Accuses),
            Share([.. sound.Select(of)], r => r.Names),
            Share(rankings, r => r is { Names: true, TopOne: true })
        );
    }

    private static double Share<T>(T[] all, Func<T, bool> holds) => all.Length == 0 ? double.NaN : all.Count(holds) / (double)all.Length;

    /// <summary>
    /// A case's own seed, by the finalizer of SplitMix64 (Steele, Lea and Flood 2014): neighbouring seeds of <see cref="Random"/> begin
    /// alike, so that a block of them draws machines that are alike too.
    /// </summary>
    internal static int SeedOf(int seed, int number)
    {
        ulong z = unchecked((((ulong)(uint)seed << 32) | (uint)number) + 0x9E3779B97F4A7C15);
        z = unchecked((z ^ (z >> 30)) * 0xBF58476D1CE4E5B9);
        z = unchecked((z ^ (z >> 27)) * 0x94D049BB133111EB);
        return (int)((z ^ (z >> 31)) & int.MaxValue);
    }

    private static DecileRow Decile((double Said, bool There)[] said, double from, double to)
    {
        (double Said, bool There)[] within = [.. said.Where(one => one.Said >= from && (one.Said < to || to == 1))];
        return new DecileRow(
            from,
            to,
            within.Length,
            within.Select(one => one.Said).DefaultIfEmpty(double.NaN).Average(),
            Share(within, one => one.There)
        );
    }

    private static PolicyRow Policy(string policy, Outcome[] outcomes, Func<Outcome, Way> of)
    {
        Way[] ways = [.. outcomes.Select(of)];
        return new PolicyRow(
            policy,
            ways.Average(w => w.Checks),
            ways.Average(w => w.Minutes),
            Share(ways, w => w.Confident),
            Share(ways, w => w.Right)
        );
    }
}
