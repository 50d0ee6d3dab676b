using System.Numerics;

namespace Remedos.Core.Diagnosis;

/// <summary>
/// The network itself: which sets of causes there are, how probable each is before anything is seen, and how probable each observation is
/// given a set.
/// Sets of up to three causes are all there are; what is left out has, with these priors, about one case in a thousand.
/// </summary>
internal static class DiagnosisNetwork
{
    private const int MostTogether = 3;

    /// <summary>A doubtful observation is right with this probability, and otherwise any state at all.</summary>
    private const double DoubtfulRight = 0.6;

    /// <summary>What a repair has seen to is seldom there again, and seldom was not cured by it: times the odds.</summary>
    private const double CuredTimes = 0.15;

    /// <summary>Nothing is quite impossible to be seen by a person who errs.</summary>
    private const double Slip = 0.004;

    /// <summary>Likewise in what runs show: shares that were counted on some hundred machines are known no better.</summary>
    private const double CountedSlip = 0.0005;

    /// <summary>Of the grades that a person judges: so many are taken for the next on either side.</summary>
    private const double BesideShare = 0.25;

    /// <summary>
    /// States that come from one owner, or are held against one expected machine, err together, so each weighs as a share of an
    /// observation by itself: against the usual machine of the kind a larger cooler or a closer case moves rise, ratio, steps and drops
    /// alike, against noted parts what the noting leaves open. These are the shares at which what is said is what is found, on machines
    /// drawn for that alone (docs/science.md).
    /// </summary>
    private const double OwnerShare = 0.94,
        PartsShare = 0.75,
        KindShare = 0.52;

    /// <summary>The sets as bits of the causes' order; the empty one first.</summary>
    public static uint[] Sets { get; } =
    [
        .. Enumerable
            .Range(0, 1 << DiagnosisTables.Causes.Count)
            .Select(bits => (uint)bits)
            .Where(bits => BitOperations.PopCount(bits) <= MostTogether),
    ];

    /// <summary>Where the set of each cause alone stands among them.</summary>
    public static int[] Alone { get; } = [.. DiagnosisTables.Causes.Select((_, cause) => Array.IndexOf(Sets, 1u << cause))];

    /// <summary>For each set, which group of sets that need the same repairs it belongs to.</summary>
    public static int[] RepairGroups { get; }

    /// <summary>All repairs, and for each set those that it needs, as bits of their order.</summary>
    private static readonly string[] RepairIds;

    private static readonly uint[] RepairBits;

    /// <summary>How many such groups there are.</summary>
    public static int RepairGroupCount { get; }

    /// <summary>
    /// The likelihood of each telling state given each set, by what the machine is held against: by evidence, state, set.
    /// </summary>
    private static readonly Dictionary<string, double[][]> ByParts = Tables(byParts: true),
        ByKind = Tables(byParts: false),
        Told = Halfway(Tables(byParts: true, judged: true), Tables(byParts: false, judged: true));

    private static Dictionary<string, double[][]> Tables(bool byParts, bool judged = false) =>
        DiagnosisTables.Evidence.ToDictionary(row => row.Id, row => LikelihoodsOf(row, byParts, judged), StringComparer.Ordinal);

    private static Dictionary<string, double[][]> Halfway(Dictionary<string, double[][]> one, Dictionary<string, double[][]> other) =>
        one.ToDictionary(
            row => row.Key,
            row => row.Value.Select((states, i) => states.Select((p, set) => (p + other[row.Key][i][set]) / 2).ToArray()).ToArray(),
            StringComparer.Ordinal
        );

    static DiagnosisNetwork()
    {
        RepairIds = [.. DiagnosisTables.Causes.Select(cause => cause.Repair).Distinct()];
        RepairBits =
        [
            .. Sets.Select(set =>
                CausesIn(set).Aggregate(0u, (bits, cause) => bits | (1u << Array.IndexOf(RepairIds, DiagnosisTables.Causes[cause].Repair)))
            ),
        ];
        uint[] groups = [.. RepairBits.Distinct()];
        RepairGroups = [.. RepairBits.Select(need => Array.IndexOf(groups, need))];
        RepairGroupCount = groups.Length;
    }

    /// <summary>The causes of a set, by their place in the table.</summary>
    public static IEnumerable<int> CausesIn(uint set) =>
        Enumerable.Range(0, DiagnosisTables.Causes.Count).Where(cause => (set & (1u << cause)) != 0);

    /// <summary>Probability of each cause before anything is seen; 0 where it cannot be.</summary>
    public static double[] Priors(CaseMachine machine) =>
        [
            .. DiagnosisTables.Causes.Select(cause =>
            {
                double possible =
                    cause.Needs == CauseRow.Card && machine.HasCard == false ? 0
                    : cause.CoolerKinds is not { } kinds ? 1
                    : machine.CoolerKind is { } kind
                        ? kinds.Contains(kind) ? 1
                            : 0
                    : kinds.Contains("tower") ? 1
                    : CaseMachine.LiquidShare;
                // What a series of machines has shown moves where the odds begin; what is known of this one moves them on from there.
                double prior = machine.Series?.Prior(cause.Id, cause.Prior) ?? cause.Prior;
                double odds =
                    prior
                    / (1 - prior)
                    * (cause.Factors ?? [])
                        .Where(factor => machine.Ask(factor.When) == true)
                        .Aggregate(machine.Cured?.Contains(cause.Id) == true ? CuredTimes : 1, (times, factor) => times * factor.Times);
                return possible * odds / (1 + odds);
            }),
        ];

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
    public static double[]? Likelihood(EvidenceItem item, CaseMachine machine)
    {
        EvidenceRow row = DiagnosisTables.EvidenceOf(item.Id)!;
        IReadOnlyList<string> telling = row.Telling;
        int state = telling.IndexOf(item.State);
        return state < 0 ? null
            : item.Doubtful ? [.. Likelihood(row, machine)[state].Select(p => (DoubtfulRight * p) + ((1 - DoubtfulRight) / telling.Count))]
            : Likelihood(row, machine)[state];
    }

    /// <summary>
    /// All states of an observation: by state, set. Who tells a state without saying what it was held against has judged it himself, be
    /// it against this machine as it was or against others of its kind.
    /// </summary>
    public static double[][] Likelihood(EvidenceRow row, CaseMachine machine) =>
        (
            machine.ByKind switch
            {
                true => ByKind,
                false => ByParts,
                null => Told,
            }
        )[row.Id];

    /// <summary>How probably each repair is needed, the most probable first.</summary>
    public static IReadOnlyList<RepairAnswer> Repairs(double[] weights)
    {
        double total = weights.Sum();
        double[] needed = new double[RepairIds.Length];
        for (int i = 0; i < weights.Length; i++)
        {
            for (uint left = RepairBits[i]; left != 0; left &= left - 1)
            {
                needed[BitOperations.TrailingZeroCount(left)] += weights[i] / total;
            }
        }

        return
        [
            .. RepairIds
                .Zip(needed, (id, p) => new RepairAnswer(id, Math.Min(1, p)))
                .OrderByDescending(repair => repair.Probability)
                .ThenBy(repair => repair.Id, StringComparer.Ordinal),
        ];
    }

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

    private static double[][] LikelihoodsOf(EvidenceRow row, bool byParts, bool judged)
    {
        int states = row.Telling.Count;
        double[][] table = [.. Enumerable.Range(0, states).Select(_ => new double[Sets.Length])];
        if ((row.Leak ?? (RunLikelihoods.Of(row.Id, byParts) ?? RunLikelihoods.Of(row.Id, !byParts))?.Leak) is not { } leak)
        {
            // Nobody has seen it in any machine: it tells nothing.
            Array.ForEach(table, likelihood => Array.Fill(likelihood, 1.0 / states));
            return table;
        }

        Effect?[] effects = [.. DiagnosisTables.Causes.Select(cause => EffectOf(row, cause.Id, byParts, leak))];
        double[] p = new double[states];
        bool counted = row.Leak is null && !judged;
        double shared = judged ? 1
            : row.Kind == "symptom" ? OwnerShare
            : !counted ? 1
            : byParts && row.Share is { } share ? share
            : !row.HeldAgainst ? 1
            : byParts ? PartsShare
            : KindShare,
            slip = counted ? CountedSlip : Slip;
        for (int i = 0; i < Sets.Length; i++)
        {
            Effect[] present = [.. CausesIn(Sets[i]).Select(cause => effects[cause]).OfType<Effect>()];
            if (row.Ordered)
            {
                NoisyMax(leak, present, p);
                if (judged && row.HeldAgainst)
                {
                    Blur(p);
                }
            }
            else
            {
                Mixture(leak, present, p);
            }

            double sum = 0;
            for (int state = 0; state < states; state++)
            {
                sum += table[state][i] = Math.Pow(((1 - slip) * p[state]) + (slip / states), shared);
            }

            for (int state = 0; state < states; state++)
            {
                table[state][i] /= sum;
            }
        }

        return table;
    }

    /// <summary>
    /// What a cause adds, without the leak: of ordered states how probable it is that it makes none worse than each, of others how probable
    /// each is where it speaks.
    /// </summary>
    private sealed record Effect(double[] Adds, double Weight);

    /// <summary>
    /// Tables and simulator tell what is seen in a machine with the cause; the leak is in that and is taken out here (Henrion 1989), so
    /// that no leak counts twice.
    /// </summary>
    private static Effect? EffectOf(EvidenceRow row, string cause, bool byParts, IReadOnlyList<double> leak)
    {
        IReadOnlyList<double>? seen = row.Leak is null
            ? (RunLikelihoods.Of(row.Id, byParts) ?? RunLikelihoods.Of(row.Id, !byParts))?.Effects.GetValueOrDefault(cause)
            : row.Effects.GetValueOrDefault(cause)?.P;
        if (seen is null)
        {
            return null;
        }

        double[] adds = new double[leak.Count];
        if (row.Ordered)
        {
            double with = 0,
                without = 0,
                before = 0;
            for (int i = 0; i < adds.Length; i++)
            {
                (with, without) = (with + seen[i], without + leak[i]);
                before = adds[i] = i == adds.Length - 1 ? 1 : Math.Max(before, Math.Min(1, with / without));
            }

            return new Effect(adds, 0);
        }

        double apart = seen.Zip(leak, (a, b) => Math.Abs(a - b)).Sum() / 2,
            weight = row.Effects.GetValueOrDefault(cause)?.Weight ?? MostWeight * apart;
        if (apart < LeastApart)
        {
            return null;
        }

        double own = OwnWeight(weight);
        for (int i = 0; i < adds.Length; i++)
        {
            adds[i] = Math.Max(0, seen[i] + (own / weight * (seen[i] - leak[i])));
        }

        double sum = adds.Sum();
        return new Effect([.. adds.Select(one => one / sum)], weight);
    }

    /// <summary>The worst of what each cause makes alone (Díez 1993): cumulative probabilities multiply.</summary>
    private static void NoisyMax(IReadOnlyList<double> leak, Effect[] present, double[] p)
    {
        double before = 0,
            leakUpTo = 0;
        for (int state = 0; state < p.Length; state++)
        {
            double all = leakUpTo += leak[state];
            foreach (Effect effect in present)
            {
                all *= effect.Adds[state];
            }

            (p[state], before) = (Math.Max(0, all - before), all);
        }
    }

    /// <summary>
    /// Thresholds grade by how much a run is off what is expected. Who grades that himself sees that it is too much, and takes every fourth
    /// grade for the one beside it.
    /// </summary>
    private static void Blur(double[] p)
    {
        double before = 0;
        for (int grade = 1; grade < p.Length - 1; grade++)
        {
            double up = BesideShare * p[grade],
                down = BesideShare * p[grade + 1];
            p[grade] += before + down - up;
            before = up - down;
        }

        p[^1] += before;
    }

    /// <summary>One of the causes shows, in proportion to its weight.</summary>
    private static void Mixture(IReadOnlyList<double> leak, Effect[] present, double[] p)
    {
        double weights = present.Sum(effect => effect.Weight),
            own = OwnWeight(weights);
        for (int state = 0; state < p.Length; state++)
        {
            p[state] = ((own * leak[state]) + present.Sum(effect => effect.Weight * effect.Adds[state])) / (own + weights);
        }
    }

    /// <summary>The leak stands for a machine without the causes; beside one that speaks up it has little to say.</summary>
    private static double OwnWeight(double weights) => weights == 0 ? 1 : Math.Max(0, LeakWeight - weights) + LeakBeside;

    /// <summary>
    /// Of what the simulator tells: the weight of a cause that never shows what a sound machine shows, and what is too little to be more
    /// than chance.
    /// </summary>
    private const double MostWeight = 4,
        LeastApart = 0.03;

    private const double LeakWeight = 1,
        LeakBeside = 0.1;
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
