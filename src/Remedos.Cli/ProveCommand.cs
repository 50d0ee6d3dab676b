using System.CommandLine;
using Remedos.Core;
using Remedos.Core.Comparison;
using Remedos.Validation;

namespace Remedos.Cli;

/// <summary>`remedos prove …`: the tables of docs/science.md and the likelihoods of the diagnosis, made anew.</summary>
internal static class ProveCommand
{
    public static Command Build()
    {
        Option<int> machines = Number("--machines", "How many machines of each pool.", 400),
            seed = Number("--seed", "Of the first machine.", 1);
        Command heatPath = new("heat-path", "Accuracy of the bands and coverage of their half-widths on simulated machines.")
        {
            machines,
            seed,
        };
        heatPath.SetAction(parsed =>
        {
            foreach (
                (MachinePool pool, string title) in new[]
                {
                    (MachinePool.Library, "the library"),
                    (MachinePool.HeldOut, "put together anew"),
                }
            )
            {
                IReadOnlyList<BandProof> bands = HeatPathProof.Run(parsed.GetValue(machines), parsed.GetValue(seed), pool);
                Console.WriteLine($"{bands[0].Machines} machines, {title}:\n");
                Console.WriteLine($"| band | bias | mean error | 95 % of errors | mean half-width | holds the truth |");
                Console.WriteLine("|---|---|---|---|---|---|");
                foreach (BandProof band in bands)
                {
                    Console.WriteLine(
                        $"| {Kebab.Of(band.Band)} | {Math.Round(band.BiasCPerW, 3):+0.000;−0.000;0.000} | {band.MeanErrorCPerW:0.000} | "
                            + $"{band.Error95CPerW:0.000} | {band.MeanHalfWidthCPerW:0.000} | {100 * band.Coverage:0.0} % |"
                    );
                }

                Console.WriteLine();
            }
        });
        return new Command("prove", "Runs the proofs whose tables stand in docs/science.md.")
        {
            heatPath,
            Diagnosis(),
            Likelihoods(),
            Verdicts(),
            Month(),
            Practice(),
        };
    }

    private const int Most = 1_000_000;

    private static Command Month()
    {
        Option<int> months = Number("--months", "How many simulated months.", 10),
            seed = Number("--seed", "Of the first month.", 1);
        Command month = new("month", "A busy workshop by the plan of its day and as machines came.") { months, seed };
        month.SetAction(parsed =>
        {
            Console.WriteLine(
                "| worked | machines | mean stay | promises broken | past a promise, mean | bays idle while a run waited | hands idle |"
            );
            Console.WriteLine("|---|---|---|---|---|---|---|");
            foreach (bool byPlan in new[] { false, true })
            {
                MonthRow[] rows =
                [
                    .. Enumerable
                        .Range(parsed.GetValue(seed), parsed.GetValue(months))
                        .AsParallel()
                        .AsOrdered()
                        .Select(one => WorkshopMonth.Run(one, byPlan)),
                ];
                Console.WriteLine(
                    $"| {(byPlan ? "by the plan" : "as they came")} | {rows.Sum(row => row.Machines)} "
                        + $"| {rows.Average(row => row.StayHours):0.0} h | {100 * rows.Average(row => row.LateShare):0.0} % "
                        + $"| {rows.Average(row => row.LateHours):0.00} h | {100 * rows.Average(row => row.BayIdleShare):0} % "
                        + $"| {100 * rows.Average(row => row.HandIdleShare):0} % |"
                );
            }
        });
        return month;
    }

    private static Command Practice()
    {
        Option<int> cases = Number("--cases", "How many cases of each level.", 200),
            seed = Number("--seed", "Of the first case.", 1000);
        Command practice = new("practice", "Practice cases by the best way, and by a habit that looks at nothing.") { cases, seed };
        practice.SetAction(parsed =>
        {
            Console.WriteLine("| level | worked | nothing left | minutes of hands | points |\n|---|---|---|---|---|");
            foreach (PracticeRow row in PracticeValidation.Run(parsed.GetValue(cases), parsed.GetValue(seed)))
            {
                Console.WriteLine($"| {row.Level} | {row.Way} | {100 * row.Mended:0} % | {row.Minutes:0} | {row.Points:0} |");
            }
        });
        return practice;
    }

    private static Command Verdicts()
    {
        Option<int> cases = Number("--cases", "How many simulated benches a protocol.", 2000, least: 10),
            seed = Number("--seed", "Of the first bench.", 1);
        Command verdicts = new("verdicts", "False verdicts, coverage and power of comparisons on simulated benches.") { cases, seed };
        verdicts.SetAction(parsed =>
        {
            (int n, int first) = (parsed.GetValue(cases), parsed.GetValue(seed));
            foreach (
                (string title, Repeatability? learnt) in new (string, Repeatability?)[]
                {
                    ("a bench of which nothing is known", null),
                    ("a bench with 40 re-mounts behind it", new Repeatability(1.0, 40, 0.3, 60)),
                }
            )
            {
                Console.WriteLine(
                    $"\n{title}:\n\n| a side | false verdicts | interval holds the truth | half-width | promised to be found | found "
                        + $"|\n|---|---|---|---|---|---|"
                );
                foreach (VerdictRow row in VerdictValidation.Run(n, first, learnt))
                {
                    Console.WriteLine(
                        $"| {row.Protocol.Name} | {100 * row.FalseVerdicts:0.0} % | {100 * row.Coverage:0.0} % | {row.HalfWidthC:0.0} "
                            + $"°C | {row.SmallestC:0.0} °C | {100 * row.FoundAtSmallest:0.0} % |"
                    );
                }

                Console.WriteLine(
                    "\n| open after | how often | mean further mounts or runs asked for | settled by them |\n|---|---|---|---|"
                );
                foreach (Protocol protocol in VerdictValidation.Protocols[..4])
                {
                    WantedRow row = VerdictValidation.Wanted(protocol, n, first, learnt);
                    Console.WriteLine($"| {protocol.Name} | {row.Open} of {n} | {row.Mean:0.0} | {100 * row.Found:0.0} % |");
                }
            }
        });
        return verdicts;
    }

    private static Command Diagnosis()
    {
        Option<int> cases = Number("--cases", "How many random machines.", 1000, least: 10),
            seed = Number("--seed", "Of the first machine.", 1);
        Command diagnosis = new(
            "diagnosis",
            "Accuracy, calibration and minutes of the diagnosis on random simulated machines, sound ones and with one or two faults."
        )
        {
            cases,
            seed,
        };
        diagnosis.SetAction(parsed =>
        {
            foreach (bool byParts in new[] { true, false })
            {
                DiagnosisReport report = DiagnosisValidation.Run(parsed.GetValue(cases), parsed.GetValue(seed), byParts);
                Console.WriteLine(
                    $"\n{(byParts ? "its parts known" : "only the kind of its cooler known")}: {report.Faulty} machines with one or two "
                        + $"faults, {report.Sound} sound ones\n"
                );
                Console.WriteLine(
                    "| evidence | the first repair is needed | one of the first three causes is there | both of two among the first "
                        + "three | sound ones accused | told of a fault | faulty ones told of one of theirs |\n"
                        + "|---|---|---|---|---|---|---|"
                );
                foreach (AccuracyRow row in report.Accuracy)
                {
                    Console.WriteLine(
                        $"| {row.Evidence} | {100 * row.TopOne:0.0} % | {100 * row.TopThree:0.0} % | {100 * row.BothOfTwo:0.0} % | "
                            + $"{100 * row.SoundAccused:0.0} % | {100 * row.SoundNamed:0.0} % | {100 * row.FaultNamed:0.0} % |"
                    );
                }

                Console.WriteLine("\n| said | how often | mean of what was said | found |\n|---|---|---|---|");
                foreach (DecileRow row in report.Deciles)
                {
                    Console.WriteLine(
                        $"| {100 * row.From:0}–{100 * row.To:0} % | {row.Count} | {100 * row.MeanSaid:0.0} % | {100 * row.Found:0.0} % |"
                    );
                }

                Console.WriteLine("\n| asking | checks | minutes | came to a confident answer | right in the end |\n|---|---|---|---|---|");
                foreach (PolicyRow row in report.Policies)
                {
                    Console.WriteLine(
                        $"| {row.Policy} | {row.Checks:0.0} | {row.Minutes:0} | {100 * row.Confident:0} % | {100 * row.Right:0} % |"
                    );
                }

                Console.WriteLine("\n| the only cause | cases | found by its own checks | else |\n|---|---|---|---|");
                foreach (MissRow row in report.Misses)
                {
                    Console.WriteLine($"| {row.Cause} | {row.Cases} | {100 * row.TopOne:0} % | {row.Instead} |");
                }

                Console.WriteLine("\n| sound ones are accused of | cases | by |\n|---|---|---|");
                foreach (AccusedRow row in report.Accused)
                {
                    Console.WriteLine($"| {row.Cause} | {row.Cases} | {row.Because} |");
                }
            }
        });
        return diagnosis;
    }

    private static Command Likelihoods()
    {
        Option<int> machines = Number("--machines", "How many of each cause.", 100),
            seed = Number("--seed", "Of the first machine.", 1);
        Command likelihoods = new("likelihoods", "Makes the likelihoods of run and trial evidence anew: Diagnosis/run-likelihoods.json.")
        {
            machines,
            seed,
        };
        likelihoods.SetAction(parsed => Console.Write(LikelihoodTables.Make(parsed.GetValue(machines), parsed.GetValue(seed))));
        return likelihoods;
    }

    private static Option<int> Number(string name, string what, int usual, int least = 1)
    {
        Option<int> option = new(name) { Description = what, DefaultValueFactory = _ => usual };
        option.Validators.Add(result =>
        {
            if (result.GetValueOrDefault<int>() is var number && (number < least || number > Most))
            {
                result.AddError($"{name} wants a number from {least} to {Most}.");
            }
        });
        return option;
    }
}
