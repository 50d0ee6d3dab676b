using CsCheck;
using Remedos.Core.Diagnosis;

namespace Remedos.Core.Tests.Diagnosis;

/// <summary>
/// The network against a plain reckoning of the same tables, its properties, and cases that any technician would judge alike.
/// </summary>
public sealed class DiagnoserTests
{
    private static readonly Gen<EvidenceItem[]> AnyEvidence = Gen.Select(One([.. DiagnosisTables.Evidence]), Gen.Int[0, 9], Gen.Bool)
        .Array[0, 12]
        .Select(picks =>
            picks
                .DistinctBy(pick => pick.Item1.Id)
                .Where(pick =>
                    pick.Item1.Id != "tube-difference"
                    || pick.Item1.Telling.Contains(pick.Item1.States[pick.Item2 % pick.Item1.States.Count])
                )
                .Select(pick => new EvidenceItem(pick.Item1.Id, pick.Item1.States[pick.Item2 % pick.Item1.States.Count], pick.Item3))
                .ToArray()
        );

    private static readonly Gen<CaseMachine> AnyMachine = Gen.Select(
        One<string?>("down-draught", "tower", "dual-tower", "liquid", "passive", null),
        Gen.Double[0, 120],
        Gen.Bool,
        One([.. DiagnosisTables.Settings]),
        (kind, age, prebuilt, setting) => new CaseMachine(kind, age, prebuilt, setting, ByKind: age < 20 ? null : age > 60)
    );

    private static readonly int[][] UpToThree =
    [
        .. Enumerable
            .Range(0, 1 << DiagnosisTables.Causes.Count)
            .Where(bits => int.PopCount(bits) <= 3)
            .Select(bits => Enumerable.Range(0, DiagnosisTables.Causes.Count).Where(i => (bits >> i & 1) == 1).ToArray()),
    ];

    private static Gen<T> One<T>(params T[] all) => Gen.Int[0, all.Length - 1].Select(i => all[i]);

    private static double Of(DiagnosisAnswer answer, string cause) =>
        answer.Causes.FirstOrDefault(one => one.Id == cause)?.Probability ?? 0;

    private static DiagnosisAnswer Answer(CaseMachine machine, params string[] evidence) =>
        Diagnoser.Of(
            new DiagnosisCase(machine, [.. evidence.Select(one => one.Split(": ")).Select(parts => new EvidenceItem(parts[0], parts[1]))])
        );

    /// <summary>The same tables reckoned plainly: every subset of up to three causes, each likelihood from its definition.</summary>
    [Fact]
    public void Probabilities_are_those_of_a_plain_reckoning() =>
        Gen.Select(AnyMachine, AnyEvidence)
            .Sample(
                (machine, evidence) =>
                {
                    DiagnosisAnswer answer = Diagnoser.Of(new DiagnosisCase(machine, evidence));
                    double[] priors = DiagnosisNetwork.Priors(machine);
                    CauseRow[] causes = [.. DiagnosisTables.Causes];
                    double total = 0;
                    double[] sums = new double[causes.Length];
                    foreach (int[] set in UpToThree)
                    {
                        double p = Enumerable
                            .Range(0, causes.Length)
                            .Aggregate(1.0, (product, i) => product * (set.Contains(i) ? priors[i] : 1 - priors[i]));
                        foreach (EvidenceItem item in evidence)
                        {
                            EvidenceRow row = DiagnosisTables.EvidenceOf(item.Id)!;
                            bool elsewhere = row.Needs == "liquid" && machine.CoolerKind is not (null or "liquid");
                            p *=
                                elsewhere || !row.Telling.Contains(item.State)
                                    ? 1
                                    : Plainly(row, machine.ByKind, [.. set.Select(i => causes[i].Id)], item);
                        }

                        total += p;
                        foreach (int i in set)
                        {
                            sums[i] += p;
                        }
                    }

                    Assert.All(causes.Select((cause, i) => (cause.Id, sums[i] / total)), pair =>
                        Assert.Equal(pair.Item2, Of(answer, pair.Id), 1e-9)
                    );
                },
                iter: 30
            );

    /// <summary>What an earlier round found and saw to leads no more, and can still be.</summary>
    [Fact]
    public void What_was_cured_is_less_probable_and_not_impossible()
    {
        EvidenceItem[] seen = [new("swollen-band", "chip"), new("onset", "gradual")];
        double before = Of(Diagnoser.Of(new DiagnosisCase(new CaseMachine("tower"), seen)), "paste-aged"),
            after = Of(Diagnoser.Of(new DiagnosisCase(new CaseMachine("tower", Cured: ["paste-aged"]), seen)), "paste-aged");
        Assert.InRange(after / (1 - after) / (before / (1 - before)), 0.1, 0.25);
        Assert.StartsWith(
            "machine.cured: “moths”",
            new DiagnosisCase(new CaseMachine(Cured: ["moths"]), []).Problem(),
            StringComparison.Ordinal
        );
    }

    /// <summary>
    /// P(state) for one set, from the definitions in docs/science.md: what each cause adds is its table without the leak.
    /// </summary>
    private static double Plainly(EvidenceRow row, bool? byKind, string[] present, EvidenceItem item)
    {
        // Whoever judged a state himself did so against this machine or against its kind.
        double p = byKind is { } known
            ? Held(row, !known, known, present, item)
            : (Held(row, true, null, present, item) + Held(row, false, null, present, item)) / 2;
        return item.Doubtful ? (0.6 * p) + (0.4 / row.Telling.Count) : p;
    }

    private static double Held(EvidenceRow row, bool byParts, bool? byKind, string[] present, EvidenceItem item)
    {
        LikelihoodRow? made = RunLikelihoods.Of(row.Id, byParts) ?? RunLikelihoods.Of(row.Id, !byParts);
        int n = row.Telling.Count,
            state = row.Telling.ToList().IndexOf(item.State);
        if (row.Leak is null && made is null)
        {
            return 1.0 / n;
        }

        double[] leak = [.. row.Leak ?? made!.Leak];
        double[][] seen =
        [
            .. present
                .Select(cause => row.Leak is null ? made!.Effects.GetValueOrDefault(cause) : row.Effects.GetValueOrDefault(cause)?.P)
                .OfType<IReadOnlyList<double>>()
                .Select(p => p.ToArray()),
        ];
        double[] all = new double[n];
        if (row.Ordered)
        {
            double Net(double[] p, int s) =>
                s == n - 1 ? 1 : Enumerable.Range(0, s + 1).Max(k => Math.Min(1, p.Take(k + 1).Sum() / leak.Take(k + 1).Sum()));
            double UpTo(int s) => s < 0 ? 0 : leak.Take(s + 1).Sum() * seen.Aggregate(1.0, (product, p) => product * Net(p, s));
            all = [.. Enumerable.Range(0, n).Select(s => Math.Max(0, UpTo(s) - UpTo(s - 1)))];
            if (byKind is null && row.HeldAgainst)
            {
                // Of every grade but the first, a quarter is told as the one above it, and a quarter as the one below.
                double Told(int grade, int as_) =>
                    grade == 0 || as_ == 0
                        ? grade == as_
                            ? 1
                            : 0
                        : Math.Abs(grade - as_) == 1
                            ? 0.25
                            : grade != as_
                                ? 0
                                : 1 - (grade > 1 ? 0.25 : 0) - (grade < n - 1 ? 0.25 : 0);
                all = [.. Enumerable.Range(0, n).Select(s => Enumerable.Range(0, n).Sum(grade => all[grade] * Told(grade, s)))];
            }
        }
        else
        {
            (double[] Net, double Weight)[] speak =
            [
                .. present
                    .Select(cause =>
                        (
                            P: row.Leak is null ? made!.Effects.GetValueOrDefault(cause) : row.Effects.GetValueOrDefault(cause)?.P,
                            Typed: row.Effects.GetValueOrDefault(cause)?.Weight
                        )
                    )
                    .Where(one => one.P is not null)
                    .Select(one => (P: one.P!.ToArray(), Apart: one.P!.Zip(leak, (a, b) => Math.Abs(a - b)).Sum() / 2, one.Typed))
                    .Where(one => one.Apart >= 0.03)
                    .Select(one =>
                    {
                        double weight = one.Typed ?? 4 * one.Apart,
                            own = Math.Max(0, 1 - weight) + 0.1;
                        double[] net = [.. one.P.Select((p, s) => Math.Max(0, p + (own / weight * (p - leak[s]))))];
                        return (net.Select(p => p / net.Sum()).ToArray(), weight);
                    }),
            ];
            double weights = speak.Sum(one => one.Weight),
                beside = speak.Length == 0 ? 1 : Math.Max(0, 1 - weights) + 0.1;
            all =
            [
                .. Enumerable
                    .Range(0, n)
                    .Select(s => ((beside * leak[s]) + speak.Sum(one => one.Weight * one.Net[s])) / (beside + weights)),
            ];
        }

        // What one owner tells, one run shows and one machine is held against errs together and weighs less; what is judged weighs whole.
        double share = (row.Kind, row.Leak is null, byKind) switch
        {
            (_, _, null) => 1,
            ("symptom", _, _) => 0.94,
            (_, false, _) => 1,
            (_, _, false) when row.Id == "time-to-limit" => 0.2,
            _ when !row.HeldAgainst => 1,
            (_, _, false) => 0.75,
            (_, _, true) => 0.52,
        };
        // Who tells errs now and then; what was counted is not known to less than one in two thousand.
        double slip = row.Leak is null && byKind is not null ? 0.0005 : 0.004;
        all = [.. all.Select(one => Math.Pow(((1 - slip) * one) + (slip / n), share))];
        return all[state] / all.Sum();
    }

    /// <summary>
    /// A warm rest speaks for a starved case, although a sensor that reads too high explains it better: it is never told against it.
    /// </summary>
    [Fact]
    public void What_a_cause_shows_is_no_reason_against_it() =>
        Gen.Select(AnyMachine, AnyEvidence)
            .Sample(
                (machine, evidence) =>
                    Assert.All(Diagnoser.Of(new DiagnosisCase(machine, evidence)).Causes, cause =>
                        Assert.All(cause.Reasons.Where(reason => reason.Bits < 0), reason =>
                        {
                            EvidenceRow row = DiagnosisTables.EvidenceOf(reason.Evidence)!;
                            EvidenceItem item = evidence.Single(one => one.Id == reason.Evidence);
                            Assert.True(Plainly(row, machine.ByKind, [cause.Id], item) <= Plainly(row, machine.ByKind, [], item) + 1e-9);
                        })
                    ),
                iter: 30
            );

    /// <summary>
    /// What several causes show alike moves none of them, and is told all the same: nothing is lost between what speaks for a cause and
    /// what does not.
    /// </summary>
    [Fact]
    public void What_a_cause_shows_as_others_do_is_told_of_it() =>
        Gen.Select(AnyMachine, AnyEvidence)
            .Sample((machine, evidence) => Assert.All(Diagnoser.Of(new DiagnosisCase(machine, evidence)).Causes, cause =>
                    {
                        string[] shown =
                        [
                            .. evidence
                                .Where(item => DiagnosisTables.EvidenceOf(item.Id)!.IsOf(machine.CoolerKind))
                                .Where(item => DiagnosisTables.EvidenceOf(item.Id)!.Telling.Contains(item.State))
                                .Where(item => item.State != "no-tubes")
                                .Where(item =>
                                    DiagnosisTables.EvidenceOf(item.Id)! is var row
                                    && Plainly(row, machine.ByKind, [cause.Id], item) > 2.0001 * Plainly(row, machine.ByKind, [], item)
                                )
                                .Select(item => item.Id),
                        ];
                        string[] told =
                        [
                            .. cause.Reasons.Where(reason => reason.Bits > 0).Concat(cause.Shared).Select(one => one.Evidence),
                        ];
                        Assert.Empty(shown.Except(told));
                        Assert.Equal(told.Length, told.Distinct().Count());
                    }), iter: 30);

    [Fact]
    public void The_order_of_evidence_changes_nothing() =>
        Gen.Select(AnyMachine, AnyEvidence, Gen.Int)
            .Sample(
                (machine, evidence, seed) =>
                {
                    EvidenceItem[] shuffled = [.. evidence];
                    new Random(seed).Shuffle(shuffled);
                    DiagnosisAnswer one = Diagnoser.Of(new DiagnosisCase(machine, evidence)),
                        other = Diagnoser.Of(new DiagnosisCase(machine, shuffled));
                    Assert.Equal(
                        one.Causes.Select(cause => (cause.Id, cause.Probability)),
                        other.Causes.Select(cause => (cause.Id, cause.Probability))
                    );
                    Assert.Equal(one.NextChecks.Select(check => check.Evidence), other.NextChecks.Select(check => check.Evidence));
                },
                iter: 30
            );

    [Fact]
    public void Causes_that_cannot_be_are_not_there() =>
        Gen.Select(One("tower", "dual-tower", "down-draught", "passive"), AnyEvidence)
            .Sample(
                (kind, evidence) =>
                {
                    DiagnosisAnswer answer = Diagnoser.Of(new DiagnosisCase(new CaseMachine(kind), evidence));
                    Assert.DoesNotContain(answer.Causes, cause => cause.Id is "pump-failed" or "loop-restricted" or "coolant-lost");
                    Assert.Equal(kind == "passive", answer.Causes.All(cause => cause.Id != "fan-failed"));
                    Assert.All(answer.Causes, cause => Assert.InRange(cause.Probability, 0, 1));
                    Assert.DoesNotContain(answer.NextChecks, check => DiagnosisTables.EvidenceOf(check.Evidence)!.Needs == "liquid");
                },
                iter: 30
            );

    /// <summary>Cases told by the rules of the trade; the cause that any technician would name stands first.</summary>
    [Theory]
    [InlineData(
        "dust-blocked-fins",
        0.8,
        "tower",
        48,
        "flour-dust",
        "onset: gradual|dust: heavy|swollen-band: bulk|resistance-ratio: raised|fan-response: ramps"
    )]
    [InlineData(
        "poor-contact",
        0.85,
        "tower",
        2,
        "home",
        "onset: after-work-or-move|time-to-limit: at-once|core-spread: wide|screws-loose: yes"
    )]
    [InlineData(
        "poor-contact",
        0.8,
        "tower",
        12,
        "home",
        "time-to-limit: at-once|swollen-band: chip|paste-print: ring-or-spot|core-spread: wide"
    )]
    [InlineData(
        "paste-aged",
        0.8,
        "tower",
        60,
        "office",
        "onset: gradual|time-to-limit: seconds|swollen-band: chip|core-spread: normal|dust: light"
    )]
    [InlineData("paste-aged", 0.9, "down-draught", 70, "home", "swollen-band: chip|paste-print: dried|dust: none")]
    [InlineData("pump-failed", 0.8, "liquid", 40, "home", "onset: sudden|pump-speed: zero|tube-difference: one-hot|time-to-limit: seconds")]
    [InlineData(
        "loop-restricted",
        0.8,
        "liquid",
        48,
        "office",
        "onset: gradual|pump-speed: normal|tube-difference: one-hot|swollen-band: cooler"
    )]
    [InlineData("coolant-lost", 0.7, "liquid", 48, "home", "noise-gurgling: yes|leak-marks: yes|time-to-limit: minutes")]
    [InlineData(
        "fan-failed",
        0.8,
        "tower",
        40,
        "workshop-dust",
        "onset: sudden|noise-grinding: yes|fan-response: stopped|blade-blocked: no|recovery: slow"
    )]
    [InlineData("fan-reversed", 0.8, "tower", 3, "home", "onset: after-work-or-move|fan-wrong-way: yes")]
    [InlineData(
        "fan-control",
        0.8,
        "tower",
        10,
        "home",
        "fan-response: low-while-hot|fans-full-drop: large|fans-always-loud: no|noise-grinding: no"
    )]
    [InlineData(
        "case-starved",
        0.8,
        "down-draught",
        20,
        "cupboard",
        "panel-off-drop: large|gpu-hot: core|dust: none|onset: after-work-or-move"
    )]
    [InlineData("room-hot", 0.5, "tower", 20, "office", "onset: summer|cooler-room: follows-room|resistance-ratio: normal")]
    [InlineData("power-excess", 0.8, "dual-tower", 6, "home", "power-vs-rated: above|onset: after-work-or-move|resistance-ratio: normal")]
    [InlineData(
        "background-load",
        0.8,
        "tower",
        20,
        "office",
        "idle-load: busy|idle-rise: raised|slow-all-the-time: yes|resistance-ratio: normal"
    )]
    [InlineData(
        "power-limited",
        0.8,
        "tower",
        20,
        "office",
        "power-plateau: yes|time-to-limit: never|slow-all-the-time: yes|resistance-ratio: normal"
    )]
    [InlineData("gpu-cooling", 0.5, "tower", 40, "home", "gpu-hot: hotspot-only|panel-off-drop: none|resistance-ratio: normal")]
    [InlineData(
        "sensor-misread",
        0.5,
        "tower",
        20,
        "office",
        "idle-rise: high|swollen-band: none|known-good-cooler: same|idle-load: quiet|paste-print: full|offset-channel: "
            + "yes|capped-power: still-hot|recovery: slow"
    )]
    [InlineData(
        "cooler-undersized",
        0.6,
        "down-draught",
        4,
        "office",
        "onset: since-new|swollen-band: bulk|dust: none|fan-response: ramps|known-good-cooler: fixed|panel-off-drop: "
            + "none|resistance-ratio: raised"
    )]
    public void What_any_technician_would_name_stands_first(
        string cause,
        double atLeast,
        string coolerKind,
        double ageMonths,
        string setting,
        string evidence
    )
    {
        DiagnosisAnswer answer = Answer(new CaseMachine(coolerKind, ageMonths, false, setting), evidence.Split('|'));
        Assert.Equal(cause, answer.Causes[0].Id);
        Assert.True(answer.Causes[0].Probability >= atLeast, $"{answer.Causes[0].Probability:0.00}");
        Assert.NotEmpty(answer.Causes[0].For);
    }

    [Fact]
    public void Reasons_are_told_for_and_against_with_the_tables_words()
    {
        DiagnosisAnswer answer = Answer(
            new CaseMachine("liquid", 40),
            "onset: sudden",
            "tube-difference: one-hot",
            "pump-speed: normal",
            "time-to-limit: seconds"
        );
        CauseAnswer pump = answer.Causes.Single(cause => cause.Id == "pump-failed");
        Assert.Contains("tube-difference: one-hot", pump.For);
        Assert.Contains("pump-speed: normal", pump.Against);
        Assert.Equal(
            "The liquid stands: hot at the block, cold behind it.",
            pump.Reasons.Single(reason => reason.Evidence == "tube-difference").Because
        );
        Assert.Contains(answer.Warnings, warning =>
            warning.Code == "contradiction" && warning.Message.Contains("trust the tubes", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void What_does_not_fit_the_rest_is_told_and_doubt_weakens_it()
    {
        CaseMachine machine = new("tower", 48, false, "flour-dust");
        EvidenceItem[] rest =
        [
            new("onset", "gradual"),
            new("dust", "heavy"),
            new("swollen-band", "bulk"),
            new("resistance-ratio", "raised"),
            new("idle-load", "quiet"),
        ];
        DiagnosisAnswer sure = Diagnoser.Of(new DiagnosisCase(machine, [.. rest, new("film-left-on", "yes")])),
            doubtful = Diagnoser.Of(new DiagnosisCase(machine, [.. rest, new("film-left-on", "yes", Doubtful: true)]));
        Assert.Contains(sure.Warnings, warning =>
            warning.Code == "does-not-fit" && warning.Message.Contains("film left on", StringComparison.Ordinal)
        );
        Assert.True(Of(doubtful, "poor-contact") < Of(sure, "poor-contact") / 2);
        Assert.DoesNotContain(Diagnoser.Of(new DiagnosisCase(machine, rest)).Warnings, warning => warning.Code == "does-not-fit");
    }

    [Fact]
    public void What_cannot_be_undone_is_asked_last_and_each_answer_is_told_beforehand() =>
        Gen.Select(AnyMachine, AnyEvidence)
            .Sample(
                (machine, evidence) =>
                {
                    NextCheck[] checks = [.. Diagnoser.Of(new DiagnosisCase(machine, evidence)).NextChecks];
                    Assert.Equal(
                        checks
                            .OrderByDescending(check => check.Reversible)
                            .ThenByDescending(check => check.KeepsWarranty)
                            .ThenByDescending(check => check.ExpectedInformationBits / (check.Minutes + check.RiskMinutes))
                            .Select(check => check.Evidence),
                        checks.Select(check => check.Evidence)
                    );
                    Assert.All(checks, check => Assert.Equal(check.ExpectedInformationBits / check.Minutes, check.BitsPerMinute, 1e-12));
                    Assert.All(checks, check => Assert.Equal(1, check.Outcomes.Sum(outcome => outcome.Probability), 1e-9));
                    Assert.All(checks, check => Assert.DoesNotContain(evidence, item => item.Id == check.Evidence));
                    Assert.All(checks, check => Assert.InRange(check.ExpectedInformationBits, 0, 5));
                },
                iter: 20
            );

    /// <summary>An answer seen beforehand is the answer that comes: outcomes are what the next case would say.</summary>
    [Fact]
    public void An_outcome_is_what_the_answer_will_make_of_it()
    {
        CaseMachine machine = new("liquid", 30);
        string[] known = ["onset: gradual", "time-to-limit: minutes"];
        foreach (NextCheck check in Answer(machine, known).NextChecks.Take(6))
        {
            foreach (CheckOutcome outcome in check.Outcomes)
            {
                DiagnosisAnswer then = Answer(machine, [.. known, $"{check.Evidence}: {outcome.State}"]);
                Assert.Equal(
                    (outcome.Leads, Math.Round(outcome.LeadProbability, 9)),
                    (then.Causes[0].Id, Math.Round(then.Causes[0].Probability, 9))
                );
            }
        }
    }

    [Fact]
    public void Silent_answers_and_answers_about_what_is_not_there_change_nothing()
    {
        CaseMachine tower = new("tower", 20);
        DiagnosisAnswer plain = Answer(tower, "dust: light");
        Assert.Equal(plain.Causes[0].Probability, Answer(tower, "dust: light", "fan-response: unknown").Causes[0].Probability);
        DiagnosisAnswer odd = Answer(tower, "dust: light", "tube-difference: one-hot");
        Assert.Equal(plain.Causes[0].Probability, odd.Causes[0].Probability);
        Assert.Contains(odd.Warnings, warning => warning.Code == "not-in-this-machine");
        Assert.Equal(0, Of(Answer(new CaseMachine(), "tube-difference: no-tubes"), "pump-failed"));
        Assert.Contains(Answer(new CaseMachine("liquid"), "tube-difference: no-tubes").Warnings, warning =>
            warning.Message.Contains("has a liquid cooler", StringComparison.Ordinal)
        );
    }

    public static TheoryData<CaseFile, string> Wrong =>
        new()
        {
            { Told("teapot", "yes"), "evidence.teapot: there is no such evidence; known are onset" },
            { Told("dust", "deep"), "evidence.dust: “deep” is none of none, light, heavy." },
            { new(new CaseMachine("kettle"), null), "machine.coolerKind: “kettle” is none of down-draught" },
            { new(new CaseMachine(Setting: "moon"), null), "machine.setting: “moon” is none of office" },
            { new(new CaseMachine(AgeMonths: -3), null), "machine.ageMonths: -3 is not between 0 and 600." },
            { new(null, new Dictionary<string, string?>(), ["dust"]), "doubtful: “dust” is not among the evidence." },
        };

    private static CaseFile Told(string evidence, string state) => new(null, new Dictionary<string, string?> { [evidence] = state });

    [Theory]
    [MemberData(nameof(Wrong))]
    public void What_cannot_be_gets_a_sentence(CaseFile file, string words)
    {
        Assert.Null(file.Read(out string? problem));
        Assert.StartsWith(words, problem, StringComparison.Ordinal);
    }

    /// <summary>
    /// Every cause can be told by something, every observation tells something of a cause, and every number has its reason (the tables
    /// check that as they are read).
    /// </summary>
    [Fact]
    public void The_tables_are_whole()
    {
        Assert.Equal((19, 45), (DiagnosisTables.Causes.Count, DiagnosisTables.Evidence.Count));
        Assert.All(DiagnosisTables.Causes, cause =>
            Assert.True(DiagnosisTables.Evidence.Count(row => row.Effects.ContainsKey(cause.Id)) >= 3, cause.Id)
        );
        Assert.All(DiagnosisTables.Evidence, row => Assert.NotEmpty(row.Effects));
        Assert.All(DiagnosisTables.Evidence.Where(row => row.Id is "paste-print" or "film-left-on" or "known-good-cooler"), row =>
            Assert.False(row.Reversible || row.KeepsWarranty)
        );
    }
}
