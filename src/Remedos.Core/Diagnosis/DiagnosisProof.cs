using Remedos.Core.Machines;

namespace Remedos.Core.Diagnosis;

/// <summary>How often the diagnosis was right with some evidence.</summary>
/// <param name="Evidence">all, half or intake.</param>
/// <param name="TopOne">Share of cases in which the most probable cause was there.</param>
/// <param name="TopThree">In which one of the three most probable was.</param>
/// <param name="BothOfTwo">Of cases with two causes, in which both were among the three most probable.</param>
public sealed record AccuracyProof(string Evidence, double TopOne, double TopThree, double BothOfTwo);

/// <summary>How often causes were there that were called so probable.</summary>
public sealed record DecileProof(double From, double To, int Count, double MeanSaid, double Found);

/// <summary>How a way of asking does.</summary>
/// <param name="Confident">Share of cases that came to a confident answer.</param>
/// <param name="Right">Share of all cases whose most probable repair, in the end, was one that was needed.</param>
public sealed record PolicyProof(string Policy, double Checks, double Minutes, double Confident, double Right);

public sealed record DiagnosisReport(int Cases, IReadOnlyList<AccuracyProof> Accuracy, IReadOnlyList<DecileProof> Deciles, IReadOnlyList<PolicyProof> Policies);

/// <summary>
/// Tries the diagnosis on simulated machines with one or two faults drawn by the tables' own priors: what it says against what is there, and asking by expected information against
/// a fixed order and against guessing.
/// </summary>
public static class DiagnosisProof
{
    /// <summary>Weaker faults change less than two machines of one kind differ by.</summary>
    private const double WeakestSeverity = 0.35;

    private const double ConfidentAt = 0.8, AskedShare = 0.5, SymptomTold = 0.8;

    /// <summary>A check that would tell less is not worth its minutes, bits.</summary>
    private const double WorthBits = 0.03;

    private const int MostFaults = 2, MostChecks = 20;

    /// <summary>As one works through a machine from outside to inside, without a tool.</summary>
    private static readonly string[] FixedOrder =
    [
        "dust", "fan-wrong-way", "blade-blocked", "tube-difference", "leak-marks", "screws-loose", "standoffs-bottom-out", "panel-off-drop", "fans-full-drop", "capped-power", "pump-full-speed", "gpu-hot", "cooler-room",
        "paste-print", "film-left-on", "known-good-cooler",
    ];

    private static readonly string[] Complete = ["office-prebuilt", "bakery-till", "clinic-compact", "box-cooler-chiplet"];

    /// <summary>Runs the proof.</summary>
    /// <param name="cases">How many machines.</param>
    /// <param name="seed">Of the first.</param>
    public static DiagnosisReport Run(int cases, int seed)
    {
        Outcome[] outcomes = new Outcome[cases];
        Parallel.For(0, cases, i => outcomes[i] = Try(seed + i));
        (double Said, bool There)[] said = [.. outcomes.SelectMany(outcome => outcome.Said)];
        return new DiagnosisReport(
            cases,
            [Accuracy("all", outcomes, o => o.All), Accuracy("half", outcomes, o => o.Half), Accuracy("intake", outcomes, o => o.Intake)],
            [.. Enumerable.Range(0, 10).Select(decile => Decile(said, decile / 10.0, (decile + 1) / 10.0))],
            [
                Policy("by expected information", outcomes, o => o.ByInformation),
                Policy("in a fixed order", outcomes, o => o.InOrder),
                new PolicyProof("guessed by the priors", 0, 0, 0, outcomes.Average(o => o.Guessed ? 1.0 : 0)),
            ]);
    }

    private sealed record Ranking(bool TopOne, bool TopThree, bool? BothOfTwo);

    private sealed record Way(int Checks, double Minutes, bool Confident, bool Right);

    private sealed record Outcome(Ranking All, Ranking Half, Ranking Intake, IReadOnlyList<(double Said, bool There)> Said, Way ByInformation, Way InOrder, bool Guessed);

    private static Outcome Try(int seed)
    {
        Random random = new(seed);
        MachineRow row = MachineLibrary.Rows[random.Next(MachineLibrary.Rows.Count)];
        string kind = MachineLibrary.Resolve(row, out _)!.Cooler.Kind;
        CaseMachine machine = new(kind, Math.Round(-30 * Math.Log(1 - random.NextDouble())), Complete.Contains(row.Id), DiagnosisTables.Settings[random.Next(DiagnosisTables.Settings.Length)]);
        Dictionary<string, double> faults = Draw(machine, row.Graphics is not null, random);
        SimulatedCase simulated = new(row, machine, faults, seed);
        List<EvidenceItem> intake = [.. simulated.OfUsualRun], half = [], all = [];
        foreach (EvidenceRow evidence in DiagnosisTables.Evidence.Where(one => one.Kind == "symptom"))
        {
            if (random.NextDouble() < SymptomTold && simulated.Ask(evidence.Id) is { } told)
            {
                intake.Add(told);
            }
        }

        foreach (EvidenceRow evidence in DiagnosisTables.Evidence)
        {
            if (intake.All(item => item.Id != evidence.Id) && simulated.Ask(evidence.Id) is { } told)
            {
                all.Add(told);
                if (random.NextDouble() < AskedShare)
                {
                    half.Add(told);
                }
            }
        }

        DiagnosisCase withAll = new(machine, [.. intake, .. all]), withHalf = new(machine, [.. intake, .. half]), withIntake = new(machine, intake);
        double[] marginals = Marginals(withHalf);
        return new Outcome(
            Rank(withAll, faults), Rank(withHalf, faults), Rank(withIntake, faults),
            [.. DiagnosisTables.Causes.Select((cause, i) => (marginals[i], faults.ContainsKey(cause.Id)))],
            Ask(simulated, intake, faults, (asked, weights) => NextChecks.Of(asked, weights).Where(check => check.ExpectedInformationBits >= WorthBits).Select(check => check.Evidence)),
            Ask(simulated, intake, faults, (_, _) => FixedOrder),
            faults.ContainsKey(DiagnosisTables.Causes[IndexOfMost(DiagnosisNetwork.Priors(machine))].Id));
    }

    /// <summary>One or two causes, as the priors have them.</summary>
    private static Dictionary<string, double> Draw(CaseMachine machine, bool hasCard, Random random)
    {
        double[] priors = DiagnosisNetwork.Priors(machine);
        while (true)
        {
            Dictionary<string, double> faults = [];
            for (int cause = 0; cause < priors.Length; cause++)
            {
                if (random.NextDouble() < priors[cause] && (hasCard || DiagnosisTables.Causes[cause].Id != "gpu-cooling"))
                {
                    faults[DiagnosisTables.Causes[cause].Id] = WeakestSeverity + ((1 - WeakestSeverity) * random.NextDouble());
                }
            }

            if (faults.Count is > 0 and <= MostFaults)
            {
                return faults;
            }
        }
    }

    private static Way Ask(SimulatedCase simulated, List<EvidenceItem> intake, Dictionary<string, double> faults, Func<DiagnosisCase, double[], IEnumerable<string>> order)
    {
        List<EvidenceItem> known = [.. intake];
        HashSet<string> asked = [];
        double minutes = 0;
        while (true)
        {
            DiagnosisCase now = new(simulated.Machine, known);
            double[] weights = Weights(now);
            (string repair, double sure) = Repair(weights);
            bool right = DiagnosisTables.Causes.Any(cause => cause.Repair == repair && faults.ContainsKey(cause.Id));
            string? next = sure >= ConfidentAt || asked.Count >= MostChecks ? null : order(now, weights).FirstOrDefault(id => !asked.Contains(id) && known.All(item => item.Id != id));
            if (next is null)
            {
                return new Way(asked.Count, minutes, sure >= ConfidentAt, right);
            }

            asked.Add(next);
            if (simulated.Ask(next) is { } told)
            {
                known.Add(told);
                minutes += DiagnosisTables.EvidenceOf(next)!.Minutes;
            }
        }
    }

    /// <summary>The repair that is needed most probably.</summary>
    private static (string Repair, double Probability) Repair(double[] weights)
    {
        Dictionary<string, double> repairs = [];
        double total = weights.Sum();
        for (int i = 0; i < weights.Length; i++)
        {
            foreach (string repair in DiagnosisNetwork.CausesIn(DiagnosisNetwork.Sets[i]).Select(cause => DiagnosisTables.Causes[cause].Repair).Distinct())
            {
                repairs[repair] = repairs.GetValueOrDefault(repair) + (weights[i] / total);
            }
        }

        (string name, double most) = repairs.MaxBy(pair => pair.Value);
        return (name, most);
    }

    private static double[] Weights(DiagnosisCase asked)
    {
        double[] weights = DiagnosisNetwork.Prior(DiagnosisNetwork.Priors(asked.Machine));
        foreach (EvidenceItem item in asked.Evidence)
        {
            if (DiagnosisNetwork.Likelihood(item) is { } likelihood)
            {
                Diagnoser.Multiply(weights, likelihood);
            }
        }

        return weights;
    }

    private static double[] Marginals(DiagnosisCase asked) => DiagnosisNetwork.Marginals(Weights(asked));

    private static Ranking Rank(DiagnosisCase asked, Dictionary<string, double> faults)
    {
        double[] marginals = Marginals(asked);
        string[] first = [.. Enumerable.Range(0, marginals.Length).OrderByDescending(cause => marginals[cause]).Take(3).Select(cause => DiagnosisTables.Causes[cause].Id)];
        return new Ranking(faults.ContainsKey(first[0]), first.Any(faults.ContainsKey), faults.Count == 2 ? faults.Keys.All(first.Contains) : null);
    }

    private static int IndexOfMost(double[] values) => Array.IndexOf(values, values.Max());

    private static AccuracyProof Accuracy(string evidence, Outcome[] outcomes, Func<Outcome, Ranking> of)
    {
        Ranking[] rankings = [.. outcomes.Select(of)];
        return new AccuracyProof(evidence, rankings.Average(r => r.TopOne ? 1.0 : 0), rankings.Average(r => r.TopThree ? 1.0 : 0), rankings.Where(r => r.BothOfTwo is not null).Select(r => r.BothOfTwo!.Value ? 1.0 : 0).DefaultIfEmpty(double.NaN).Average());
    }

    private static DecileProof Decile((double Said, bool There)[] said, double from, double to)
    {
        (double Said, bool There)[] within = [.. said.Where(one => one.Said >= from && (one.Said < to || to == 1))];
        return new DecileProof(from, to, within.Length, within.Select(one => one.Said).DefaultIfEmpty(double.NaN).Average(), within.Select(one => one.There ? 1.0 : 0).DefaultIfEmpty(double.NaN).Average());
    }

    private static PolicyProof Policy(string policy, Outcome[] outcomes, Func<Outcome, Way> of)
    {
        Way[] ways = [.. outcomes.Select(of)];
        return new PolicyProof(policy, ways.Average(w => w.Checks), ways.Average(w => w.Minutes), ways.Average(w => w.Confident ? 1.0 : 0), ways.Average(w => w.Right ? 1.0 : 0));
    }
}
