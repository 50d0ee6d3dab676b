using System.CommandLine;
using Remedos.Core.HeatPath;

namespace Remedos.Cli;

/// <summary>`remedos prove heat-path`: the tables of docs/science.md, made anew.</summary>
internal static class ProveCommand
{
    public static Command Build()
    {
        Option<int> machines = new("--machines") { Description = "How many random machines.", DefaultValueFactory = _ => 500 };
        Option<int> seed = new("--seed") { Description = "Of the first machine.", DefaultValueFactory = _ => 1 };
        machines.Validators.Add(result =>
        {
            if (result.GetValueOrDefault<int>() is < 1 or > 100_000)
            {
                result.AddError("--machines wants a number from 1 to 100000.");
            }
        });
        Command heatPath = new("heat-path", "Accuracy of the bands and coverage of their half-widths on random simulated machines.") { machines, seed };
        heatPath.SetAction(parsed =>
        {
            Console.WriteLine($"| band | bias | mean error | 95 % of errors | mean half-width | holds the truth |");
            Console.WriteLine("|---|---|---|---|---|---|");
            foreach (BandProof band in HeatPathProof.Run(parsed.GetValue(machines), parsed.GetValue(seed)))
            {
                Console.WriteLine($"| {band.Band} | {band.BiasCPerW:+0.000;−0.000} | {band.MeanErrorCPerW:0.000} | {band.Error95CPerW:0.000} | {band.MeanHalfWidthCPerW:0.000} | {100 * band.Coverage:0.0} % |");
            }
        });
        return new Command("prove", "Runs the proofs whose tables stand in docs/science.md.") { heatPath };
    }
}
