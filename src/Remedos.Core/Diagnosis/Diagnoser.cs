using Remedos.Core.Logs;

namespace Remedos.Core.Diagnosis;

/// <summary>A cause, how probable it is by itself, and why: the observations that speak for and against it, the strongest first.</summary>
public sealed record CauseAnswer(string Id, double Probability, IReadOnlyList<string> For, IReadOnlyList<string> Against)
{
    /// <summary>What speaks for and against it, the heaviest first.</summary>
    public IReadOnlyList<EvidenceWeight> Reasons { get; init; } = [];

    /// <summary>
    /// What it shows that moves it little, since other causes explain it as well; the most telling against a sound machine first, its
    /// bits against that.
    /// </summary>
    public IReadOnlyList<EvidenceWeight> Shared { get; init; } = [];
}

/// <summary>What an observation does to a cause.</summary>
/// <param name="Bits">Weight of evidence, log₂ of the odds with it against the odds without it; above 0 speaks for the cause.</param>
/// <param name="Because">In words; null when the cause has nothing to do with it directly.</param>
public sealed record EvidenceWeight(string Evidence, string State, double Bits, string? Because);

/// <summary>A check that is still open.</summary>
/// <param name="ExpectedInformationBits">About which repair is needed.</param>
public sealed record NextCheck(string Evidence, double Minutes, double ExpectedInformationBits, double BitsPerMinute, bool Reversible)
{
    /// <summary>Whether the maker's warranty outlives the check.</summary>
    public bool KeepsWarranty { get; init; } = true;

    /// <summary>What it may break or leave behind, as minutes of repair on average; they count like its own in the order.</summary>
    public double RiskMinutes { get; init; }

    /// <summary>All that the same run tells at once, itself included; the information is of all of them.</summary>
    public IReadOnlyList<string> Together { get; init; } = [];

    /// <summary>How probable each answer is, and what it would make of the leading cause.</summary>
    public IReadOnlyList<CheckOutcome> Outcomes { get; init; } = [];
}

/// <summary>An answer that a check may give.</summary>
/// <param name="Leads">The most probable cause then, and how probable.</param>
public sealed record CheckOutcome(string State, double Probability, string Leads, double LeadProbability);

/// <summary>A repair, and how probably it is needed.</summary>
public sealed record RepairAnswer(string Id, double Probability);

/// <summary>The answer to a case.</summary>
public sealed record DiagnosisAnswer(
    IReadOnlyList<CauseAnswer> Causes,
    IReadOnlyList<NextCheck> NextChecks,
    IReadOnlyList<Warning> Warnings
)
{
    /// <summary>Probability that none of the causes is there.</summary>
    public double NothingWrong { get; init; }

    /// <summary>What would have to be done, the most probable first: causes that one act cures are one repair.</summary>
    public IReadOnlyList<RepairAnswer> Repairs { get; init; } = [];

    /// <summary>How probably a repair is needed.</summary>
    public double Needed(string repair) => Repairs.FirstOrDefault(one => one.Id == repair)?.Probability ?? 0;

    /// <summary>What the odds began from besides the tables.</summary>
    public IReadOnlyList<string> Notes { get; init; } = [];

    /// <summary>Whether only the kind of its cooler is known: its runs were held against the usual machine of that kind.</summary>
    public bool ByKind { get; init; }
}

/// <summary>
/// Reads a case: exact inference over all sets of up to three causes, reasons, contradictions, and what to check next (docs/science.md,
/// “The diagnosis”).
/// </summary>
public static class Diagnoser
{
    /// <summary>Less than this is no reason.</summary>
    private const double LeastBits = 0.15;

    /// <summary>A cause shows what it makes twice as likely as a sound machine does.</summary>
    private const double ShowsBits = 1;

    /// <summary>An observation this improbable under all the others does not fit.</summary>
    private const double Surprising = 0.05;

    private const int FewestOthers = 3;

    /// <summary>Answers a case that <see cref="DiagnosisCase.Problem"/> has found good.</summary>
    public static DiagnosisAnswer Of(DiagnosisCase asked)
    {
        List<Warning> warnings = [];
        double[] priors = DiagnosisNetwork.Priors(asked.Machine),
            prior = DiagnosisNetwork.Prior(priors),
            weights = [.. prior];
        List<(EvidenceItem Item, double[] Likelihood)> told = [];
        foreach (EvidenceItem item in asked.Evidence.OrderBy(item => item.Id, StringComparer.Ordinal))
        {
            EvidenceRow row = DiagnosisTables.EvidenceOf(item.Id)!;
            bool liquidOnly = row.Needs == "liquid" && asked.Machine.CoolerKind is not (null or "liquid");
            if (liquidOnly && row.Telling.Contains(item.State))
            {
                warnings.Add(
                    new Warning(
                        "not-in-this-machine",
                        $"“{row.Title}” was answered, but this machine has no liquid cooler; it was left out."
                    )
                );
            }
            else if (item.Id == "tube-difference" && item.State == "no-tubes")
            {
                if (asked.Machine.CoolerKind == "liquid")
                {
                    warnings.Add(
                        new Warning(
                            "not-in-this-machine",
                            "“No tubes” was answered, but this machine has a liquid cooler; it was left out."
                        )
                    );
                }
                else
                {
                    told.Add(
                        (
                            item,
                            [
                                .. DiagnosisNetwork.Sets.Select(set =>
                                    DiagnosisNetwork.CausesIn(set).Any(cause => DiagnosisTables.Causes[cause].CoolerKinds is ["liquid"])
                                        ? 0.0
                                        : 1
                                ),
                            ]
                        )
                    );
                }
            }
            else if (DiagnosisNetwork.Likelihood(item, asked.Machine) is { } likelihood)
            {
                told.Add((item, likelihood));
            }
        }

        foreach ((_, double[] likelihood) in told)
        {
            Multiply(weights, likelihood);
        }

        double[] marginals = DiagnosisNetwork.Marginals(weights);
        double[][] reasons = Reasons(asked.Machine, prior, told, marginals, warnings);
        warnings.AddRange(Conflicts(told));
        CauseAnswer[] causes =
        [
            .. Enumerable
                .Range(0, marginals.Length)
                .Where(cause => priors[cause] > 0)
                .OrderByDescending(cause => marginals[cause])
                .Select(cause => Answer(cause, marginals[cause], told, reasons)),
        ];
        return new DiagnosisAnswer(causes, NextChecks.Of(asked, weights), warnings)
        {
            NothingWrong = weights[0] / weights.Sum(),
            Repairs = DiagnosisNetwork.Repairs(weights),
            Notes = asked.Machine.Series?.Sentence() is { } note ? [note] : [],
            ByKind = asked.Machine.ByKind == true,
        };
    }

    private static double Product(double[] weights, double[] likelihood)
    {
        double sum = 0;
        for (int i = 0; i < weights.Length; i++)
        {
            sum += weights[i] * likelihood[i];
        }

        return sum;
    }

    internal static void Multiply(double[] weights, double[] likelihood)
    {
        for (int i = 0; i < weights.Length; i++)
        {
            weights[i] *= likelihood[i];
        }
    }

    private static CauseAnswer Answer(
        int cause,
        double probability,
        List<(EvidenceItem Item, double[] Likelihood)> told,
        double[][] reasons
    )
    {
        CauseRow row = DiagnosisTables.Causes[cause];
        double[] alone = [.. told.Select(one => AloneBits(cause, one.Likelihood))];
        EvidenceWeight Weight(int i, double bits) =>
            new(told[i].Item.Id, told[i].Item.State, bits, bits > 0 ? Because(told[i].Item, row.Id) : null);
        EvidenceWeight[] Heaviest(IEnumerable<EvidenceWeight> of) =>
            [.. of.OrderByDescending(weight => Math.Abs(weight.Bits)).ThenBy(weight => weight.Evidence, StringComparer.Ordinal)];
        int[] all = [.. Enumerable.Range(0, told.Count)];
        // What a cause shows is no reason against it, though another explains it better still.
        EvidenceWeight[] weights = Heaviest(
            all.Where(i => reasons[i][cause] >= LeastBits || (reasons[i][cause] <= -LeastBits && alone[i] <= 0))
                .Select(i => Weight(i, reasons[i][cause]))
        );
        string[] Words(bool speaksFor) =>
            [.. weights.Where(weight => weight.Bits > 0 == speaksFor).Select(weight => $"{weight.Evidence}: {weight.State}")];
        return new CauseAnswer(row.Id, probability, Words(true), Words(false))
        {
            Reasons = weights,
            Shared = Heaviest(all.Where(i => reasons[i][cause] < LeastBits && alone[i] >= ShowsBits).Select(i => Weight(i, alone[i]))),
        };
    }

    /// <summary>How much likelier a cause alone makes an observation than a sound machine does, log₂.</summary>
    private static double AloneBits(int cause, double[] likelihood) => Math.Log2(likelihood[DiagnosisNetwork.Alone[cause]] / likelihood[0]);

    /// <summary>What a cause has to do with a state that was seen; null of the first state, which is what a sound machine shows.</summary>
    private static string? Because(EvidenceItem item, string cause) =>
        DiagnosisTables.EvidenceOf(item.Id)! is var row && row.States[0] == item.State && row.Kind != "symptom" ? null
        : row.States[0] == item.State && row.Ordered ? null
        : row.Effects.GetValueOrDefault(cause)?.Because;

    /// <summary>
    /// For each observation and cause, how far it moves the odds when all the others are there already; and what surprises.
    /// </summary>
    private static double[][] Reasons(
        CaseMachine machine,
        double[] prior,
        List<(EvidenceItem Item, double[] Likelihood)> told,
        double[] marginals,
        List<Warning> warnings
    )
    {
        double[][] reasons = new double[told.Count][];
        for (int left = 0; left < told.Count; left++)
        {
            double[] without = [.. prior];
            for (int i = 0; i < told.Count; i++)
            {
                if (i != left)
                {
                    Multiply(without, told[i].Likelihood);
                }
            }

            double[] before = DiagnosisNetwork.Marginals(without);
            reasons[left] = [.. before.Select((p, cause) => p <= 0 ? 0 : Math.Log2(Odds(marginals[cause]) / Odds(p)))];
            EvidenceRow row = DiagnosisTables.EvidenceOf(told[left].Item.Id)!;
            double total = without.Sum(),
                fits = Product(without, told[left].Likelihood) / total,
                usual = DiagnosisNetwork.Likelihood(row, machine).Max(state => Product(without, state) / total);
            // What is computed of a measured figure cannot be looked at once more.
            if (row.Asked && told.Count > FewestOthers && fits < Surprising && fits < usual / 8)
            {
                warnings.Add(
                    new Warning(
                        "does-not-fit",
                        $"“{row.Title}: {told[left].Item.State}” fits poorly with the rest ({Math.Max(1, 100 * fits):0} in 100). "
                            + "Look once more, or mark it as doubtful."
                    )
                );
            }
        }

        return reasons;

        static double Odds(double p) => Math.Clamp(p, 1e-9, 1 - 1e-9) / (1 - Math.Clamp(p, 1e-9, 1 - 1e-9));
    }

    private static IEnumerable<Warning> Conflicts(List<(EvidenceItem Item, double[] Likelihood)> told)
    {
        bool Says(string id, IReadOnlyList<string> states) => told.Any(one => one.Item.Id == id && states.Contains(one.Item.State));
        return DiagnosisTables
            .Conflicts.Where(row => Says(row.A, row.AStates) && Says(row.B, row.BStates))
            .Select(row => new Warning("contradiction", row.Advice));
    }
}
