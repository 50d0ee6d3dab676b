using System.Numerics;

namespace Remedos.Core.Diagnosis;

/// <summary>
/// The network itself: which sets of causes there are, how probable each is before anything is seen, and how probable each observation is given a set.
/// Sets of up to three causes are all there are; what is left out has, with these priors, about one case in a thousand.
/// </summary>
internal static class DiagnosisNetwork
{
    private const int MostTogether = 3;

    /// <summary>A doubtful observation is right with this probability, and otherwise any state at all.</summary>
    private const double DoubtfulRight = 0.6;

    /// <summary>Nothing is quite impossible to be seen by a person who errs.</summary>
    private const double Slip = 0.004;

    /// <summary>The sets as bits of the causes' order; the empty one first.</summary>
    public static uint[] Sets { get; } = [.. Enumerable.Range(0, 1 << DiagnosisTables.Causes.Count).Select(bits => (uint)bits).Where(bits => BitOperations.PopCount(bits) <= MostTogether)];

    /// <summary>For each set, which group of sets that need the same repairs it belongs to.</summary>
    public static int[] RepairGroups { get; }

    /// <summary>How many such groups there are.</summary>
    public static int RepairGroupCount { get; }

    /// <summary>The likelihood of each telling state given each set: by evidence, state, set.</summary>
    private static readonly Dictionary<string, double[][]> Likelihoods = DiagnosisTables.Evidence.ToDictionary(row => row.Id, LikelihoodsOf, StringComparer.Ordinal);

    static DiagnosisNetwork()
    {
        string[] repairs = [.. DiagnosisTables.Causes.Select(cause => cause.Repair).Distinct()];
        uint[] needs = [.. Sets.Select(set => CausesIn(set).Aggregate(0u, (bits, cause) => bits | (1u << Array.IndexOf(repairs, DiagnosisTables.Causes[cause].Repair))))];
        uint[] groups = [.. needs.Distinct()];
        RepairGroups = [.. needs.Select(need => Array.IndexOf(groups, need))];
        RepairGroupCount = groups.Length;
    }

    /// <summary>The causes of a set, by their place in the table.</summary>
    public static IEnumerable<int> CausesIn(uint set) => Enumerable.Range(0, DiagnosisTables.Causes.Count).Where(cause => (set & (1u << cause)) != 0);

    /// <summary>Probability of each cause before anything is seen; 0 where it cannot be.</summary>
    public static double[] Priors(CaseMachine machine) => [.. DiagnosisTables.Causes.Select(cause =>
    {
        double possible = cause.CoolerKinds is not { } kinds ? 1 : machine.CoolerKind is { } kind ? kinds.Contains(kind) ? 1 : 0 : kinds.Contains("tower") ? 1 : CaseMachine.LiquidShare;
        double odds = cause.Prior / (1 - cause.Prior) * (cause.Factors ?? []).Where(factor => machine.Ask(factor.When) == true).Aggregate(1.0, (times, factor) => times * factor.Times);
        double prior = possible * odds / (1 + odds);
        return machine.Series?.Prior(cause.Id, prior) ?? prior;
    })];

    /// <summary>Weights of the sets before anything is seen; they need not add up to 1.</summary>
    /// <param name="priors">Of the causes.</param>
    public static double[] Prior(double[] priors)
    {
        double[] weights = new double[Sets.Length];
        for (int i = 0; i < Sets.Length; i++)
        {
            double weight = 1;
            for (int cause = 0; cause < priors.Length; cause++)
            {
                weight *= (Sets[i] & (1u << cause)) != 0 ? priors[cause] : 1 - priors[cause];
            }

            weights[i] = weight;
        }

        return weights;
    }

    /// <summary>How probable an observation is given each set; null when its state tells nothing.</summary>
    public static double[]? Likelihood(EvidenceItem item)
    {
        EvidenceRow row = DiagnosisTables.EvidenceOf(item.Id)!;
        IReadOnlyList<string> telling = row.Telling;
        int state = telling.IndexOf(item.State);
        return state < 0 ? null
            : item.Doubtful ? [.. Likelihoods[item.Id][state].Select(p => (DoubtfulRight * p) + ((1 - DoubtfulRight) / telling.Count))]
            : Likelihoods[item.Id][state];
    }

    /// <summary>All states of an observation: by state, set.</summary>
    public static double[][] Likelihood(EvidenceRow row) => Likelihoods[row.Id];

    /// <summary>Each cause's own probability.</summary>
    public static double[] Marginals(double[] weights)
    {
        double[] marginals = new double[DiagnosisTables.Causes.Count];
        double total = weights.Sum();
        for (int i = 0; i < weights.Length; i++)
        {
            for (uint left = Sets[i]; left != 0; left &= left - 1)
            {
                marginals[BitOperations.TrailingZeroCount(left)] += weights[i] / total;
            }
        }

        return marginals;
    }

    private static double[][] LikelihoodsOf(EvidenceRow row)
    {
        int states = row.Telling.Count;
        EvidenceEffect?[] effects = [.. DiagnosisTables.Causes.Select(cause => row.Effects.GetValueOrDefault(cause.Id))];
        double[][] table = [.. Enumerable.Range(0, states).Select(_ => new double[Sets.Length])];
        double[] p = new double[states];
        for (int i = 0; i < Sets.Length; i++)
        {
            EvidenceEffect[] present = [.. CausesIn(Sets[i]).Select(cause => effects[cause]).OfType<EvidenceEffect>()];
            if (row.Ordered)
            {
                NoisyMax(row.Leak, present, p);
            }
            else
            {
                Mixture(row.Leak, present, p);
            }

            for (int state = 0; state < states; state++)
            {
                table[state][i] = ((1 - Slip) * p[state]) + (Slip / states);
            }
        }

        return table;
    }

    /// <summary>The worst of what each cause makes alone (Díez 1993): cumulative probabilities multiply.</summary>
    private static void NoisyMax(IReadOnlyList<double> leak, EvidenceEffect[] present, double[] p)
    {
        double before = 0, leakUpTo = 0;
        double[] upTo = new double[present.Length];
        for (int state = 0; state < p.Length; state++)
        {
            double all = leakUpTo += leak[state];
            for (int i = 0; i < present.Length; i++)
            {
                all *= upTo[i] += present[i].P[state];
            }

            (p[state], before) = (Math.Max(0, all - before), all);
        }
    }

    /// <summary>One of the causes shows, in proportion to its weight.</summary>
    private static void Mixture(IReadOnlyList<double> leak, EvidenceEffect[] present, double[] p)
    {
        double weights = present.Sum(effect => effect.Weight!.Value);
        // The leak stands for a machine without the causes; beside one that speaks up it has little to say.
        double own = present.Length == 0 ? 1 : Math.Max(0, LeakWeight - weights) + LeakBeside;
        for (int state = 0; state < p.Length; state++)
        {
            p[state] = ((own * leak[state]) + present.Sum(effect => effect.Weight!.Value * effect.P[state])) / (own + weights);
        }
    }

    private const double LeakWeight = 1, LeakBeside = 0.1;
}

internal static class ReadOnlyListSearch
{
    public static int IndexOf(this IReadOnlyList<string> list, string wanted)
    {
        for (int i = 0; i < list.Count; i++)
        {
            if (list[i] == wanted)
            {
                return i;
            }
        }

        return -1;
    }
}
