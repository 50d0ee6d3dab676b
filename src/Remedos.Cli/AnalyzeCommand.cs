using System.CommandLine;
using System.Text.Json;
using Remedos.Core;
using Remedos.Core.Comparison;
using Remedos.Core.HeatPath;
using Remedos.Core.Logs;
using Remedos.Core.Runs;

namespace Remedos.Cli;

/// <summary>`remedos analyze LOG`: everything that one run tells.</summary>
internal static class AnalyzeCommand
{
    public static Command Build()
    {
        Argument<FileInfo> log = new("log") { Description = "The log: a text table with a header line." };
        Option<FileInfo?> conditions = new("--conditions")
        {
            Description = "Conditions of the run; default: NAME.conditions.json beside the log.",
        };
        Option<bool> json = new("--json") { Description = "Answer in the contract's JSON (docs/formats.md)." };
        Command command = new("analyze", "Reads a run: phases, sustained values, resistance, limits, recovery.") { log, conditions, json };
        command.SetAction(parsed =>
        {
            (Log read, RunConditions made) = Input.Log(parsed.GetValue(log)!, parsed.GetValue(conditions));
            ConditionedRun run = new(RunAnalyzer.AnalyzeWhole(read, made), made);
            Console.WriteLine(parsed.GetValue(json) ? JsonSerializer.Serialize(run.Analysis, CliJson.Contract.RunAnalysis) : Text(run));
            return run.Analysis.Load is null ? ExitStatus.NoAnswer : ExitStatus.Done;
        });
        return command;
    }

    private static string Text(ConditionedRun run)
    {
        RunAnalysis a = run.Analysis;
        List<string> lines = [RunWords.Finding(a, run.Conditions), ""];
        void Line(string name, string? value) => lines.Add($"  {name, -22} {value ?? "not known"}");
        if (a.Load is { } load)
        {
            Line(
                "sustained",
                $"{load.SustainedTemperatureC:0.0} ± {load.SustainedHalfWidthC:0.0} "
                    + $"°C{(load.SustainedPowerW is { } w ? $" at {w:0.0} W" : "")}"
            );
            Line("peak", $"{load.PeakTemperatureC:0.0} °C");
            Line("room", a.AmbientC is { } room ? $"{room:0.0} °C" : null);
            Line("resistance", a.Resistance is { } r ? $"{r.ValueCPerW:0.000} ± {r.HalfWidthCPerW:0.000} °C/W" : null);
            Line("can hold", a.SustainablePowerW is { } s ? $"{s:0} W" : null);
            Line("at rated power", a.ProjectedAtRatedPowerC is { } p ? $"{p:0} °C" : null);
            Line("clock", load.SustainedClockMHz is { } clock ? $"{clock / 1000:0.00} GHz" : null);
            Line("processor fan", load.SustainedFanRpm is { } rpm ? $"{rpm:0} rpm" : null);
            Line(
                "settled",
                load.Settled is { } settled ? $"{(settled ? "yes" : "no")}, forecast {load.ForecastFinalTemperatureC:0.0} °C" : null
            );
        }

        foreach (HeatBand band in a.HeatPath ?? [])
        {
            Line(
                $"lost at {Kebab.Of(band.Band)}",
                $"{band.RiseC:0.0} °C ({band.ResistanceCPerW:0.000} ± {band.HalfWidthCPerW:0.000} °C/W)"
            );
        }

        if (a.Staircase is { } stairs)
        {
            lines.Insert(1, stairs.Sentence);
        }

        if (a.Flow is { } flow)
        {
            Line("flow", $"{flow.LitresPerMinute:0.00} L/min by {flow.Basis}");
        }

        foreach (Limit limit in a.Limits)
        {
            Line(
                $"{Kebab.Of(limit.Kind)} limit",
                $"from {limit.FirstSeconds:0} s, {100 * limit.ShareOfLoad:0} % of the "
                    + $"load{(limit.ClockLossPercent is { } loss ? $", {loss:0.0} % clock lost" : "")}"
            );
        }

        if (a.Recovery is { HalfSeconds: { } half })
        {
            Line("half down", $"{half:0} s after the load");
        }

        foreach (RepeatFigures repeat in a.Repeats ?? [])
        {
            Line(
                $"run at {repeat.StartSeconds:0} s",
                $"{repeat.SustainedTemperatureC:0.0} "
                    + $"°C{(repeat.SustainedPowerW is { } w ? $" at {w:0.0} W" : "")}"
                    + $"{(repeat.Resistance is { } r ? $", {r.ValueCPerW:0.000} ± {r.HalfWidthCPerW:0.000} °C/W" : "")}"
            );
        }

        foreach (Phase phase in a.Phases)
        {
            Line(Kebab.Of(phase.Kind), $"{phase.StartSeconds:0}–{phase.EndSeconds:0} s");
        }

        lines.AddRange(a.Warnings.Select(warning => $"  ! {warning.Message}"));
        return string.Join('\n', lines);
    }
}
