using System.Globalization;
using System.Text;
using Remedos.Core.Diagnosis;

namespace Remedos.Validation;

/// <summary>
/// Makes the likelihoods of run and trial evidence: for every cause alone, at severities from slight to full, and for sound machines, how
/// often each state is read off simulated runs,
/// against the machine's own parts and against the usual machine of its kind.
/// </summary>
public static class LikelihoodTables
{
    /// <summary>Weaker faults change less than two machines of one kind differ by.</summary>
    public const double WeakestSeverity = 0.3;

    /// <summary>What a cause changes by less than this share of all machines is left to chance.</summary>
    private const double LeastApart = 0.06;

    /// <summary>So many machines like the sound ones are added to each count, so that nothing counts as impossible.</summary>
    private const double Smoothing = 2;

    private const int SoundTimes = 3;

    private static readonly string[] Questions =
    [
        .. DiagnosisTables.Evidence.Where(row => row.Kind == "trial").Select(row => row.Id),
        "gpu-hot",
    ];

    /// <summary>The file, as JSON.</summary>
    /// <param name="machines">For each cause; three times as many sound ones.</param>
    public static string Make(int machines, int seed)
    {
        string?[] cases =
        [
            .. DiagnosisTables
                .Causes.Where(cause => cause.Id != "noisy-part")
                .SelectMany(cause => Enumerable.Repeat((string?)cause.Id, machines)),
            .. Enumerable.Repeat((string?)null, SoundTimes * machines),
        ];
        Dictionary<(string Evidence, bool ByParts, string Cause), double[]> counts = [];
        Parallel.For(0, cases.Length, i =>
        {
            foreach ((bool byParts, EvidenceItem item) in Try(cases[i], DiagnosisValidation.SeedOf(seed, i)))
            {
                EvidenceRow row = DiagnosisTables.EvidenceOf(item.Id)!;
                int state = row.Telling.ToList().IndexOf(item.State);
                if (row.Leak is null && state >= 0)
                {
                    lock (counts)
                    {
                        if (!counts.TryGetValue((item.Id, byParts, cases[i] ?? ""), out double[]? states))
                        {
                            counts[(item.Id, byParts, cases[i] ?? "")] = states = new double[row.Telling.Count];
                        }

                        states[state]++;
                    }
                }
            }
        });
        return Write(counts, $"./remedos prove likelihoods --machines {machines} --seed {seed}");
    }

    /// <summary>One machine, met by a workshop that knows its parts, and another of its kind, met by one that does not.</summary>
    private static IEnumerable<(bool ByParts, EvidenceItem Item)> Try(string? cause, int seed)
    {
        int index = DiagnosisTables.Causes.ToList().FindIndex(row => row.Id == cause);
        Dictionary<string, double>? Faults(CaseMachine machine, Random chance) =>
            cause is null ? []
            : DiagnosisNetwork.Priors(machine)[index] > 0 ? new() { [cause] = DrawnMachine.Between(chance, WeakestSeverity, 1) }
            : null;
        foreach (bool byParts in new[] { true, false })
        {
            MachinePool pool = byParts ? MachinePool.LibraryParts : MachinePool.AnyOfKind;
            SimulatedCase simulated = new(DrawnMachine.Draw(pool, new Random(seed), Faults), byParts, seed);
            // The usual run alone tells most; what is asked of trials comes afterwards.
            EvidenceItem[] usual = [.. simulated.OfRuns.Where(item => !Questions.Contains(item.Id))];
            foreach (string question in Questions)
            {
                simulated.Make(question);
            }

            foreach (EvidenceItem item in usual.Concat(simulated.OfRuns.Where(item => Questions.Contains(item.Id))))
            {
                yield return (byParts, item);
            }
        }
    }

    private static string Write(Dictionary<(string Evidence, bool ByParts, string Cause), double[]> counts, string command)
    {
        StringBuilder json = new($"{{ \"command\": \"{command}\",\n  \"rows\": [\n");
        List<string> rows = [];
        foreach (EvidenceRow row in DiagnosisTables.Evidence.Where(row => row.Leak is null))
        {
            foreach (bool byParts in new[] { true, false })
            {
                if (!counts.TryGetValue((row.Id, byParts, ""), out double[]? sound))
                {
                    // What no sound machine can be asked: those without the cause in question stand for them.
                    double[][] all =
                    [
                        .. DiagnosisTables
                            .Causes.Where(cause => !row.Effects.ContainsKey(cause.Id))
                            .Select(cause => counts.GetValueOrDefault((row.Id, byParts, cause.Id)))
                            .OfType<double[]>(),
                    ];
                    if (all.Length == 0)
                    {
                        continue;
                    }

                    sound = [.. Enumerable.Range(0, all[0].Length).Select(i => all.Sum(states => states[i]))];
                }

                double n = sound.Sum() + (0.5 * sound.Length);
                double[] leak = [.. sound.Select(count => (count + 0.5) / n)];
                List<string> effects = [];
                foreach (CauseRow cause in DiagnosisTables.Causes)
                {
                    if (counts.TryGetValue((row.Id, byParts, cause.Id), out double[]? seen))
                    {
                        double[] p = [.. seen.Select((count, i) => (count + (Smoothing * leak[i])) / (seen.Sum() + Smoothing))];
                        if (p.Zip(leak, (a, b) => Math.Abs(a - b)).Sum() / 2 > LeastApart)
                        {
                            effects.Add($"      \"{cause.Id}\": [{Numbers(p)}]");
                        }
                    }
                }

                rows.Add(
                    $"    {{ \"evidence\": \"{row.Id}\", \"byParts\": {(byParts ? "true" : "false")}, \"leak\": [{Numbers(leak)}], "
                        + $"\"effects\": {{\n{string.Join(",\n", effects)} }} }}"
                );
            }
        }

        return json.Append(string.Join(",\n", rows)).Append("\n] }\n").ToString();
    }

    /// <summary>Three digits; they add up to 1.</summary>
    private static string Numbers(double[] p)
    {
        double[] rounded = [.. p.Select(one => Math.Max(0.001, Math.Round(one, 3)))];
        int most = Array.IndexOf(rounded, rounded.Max());
        rounded[most] = Math.Round(rounded[most] + 1 - rounded.Sum(), 3);
        return string.Join(", ", rounded.Select(one => one.ToString("0.###", CultureInfo.InvariantCulture)));
    }
}
