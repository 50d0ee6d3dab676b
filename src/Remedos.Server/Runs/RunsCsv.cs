using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Server.Jobs;

namespace Remedos.Server.Runs;

/// <summary>All runs of a job as a table, a row a run.</summary>
internal static class RunsCsv
{
    private static readonly CsvColumn<RunAnswer>[] Columns =
    [
        new("file", "", run => run.FileName),
        new("imported", "ISO 8601", run => run.ImportedAt),
        new("setup", "", run => run.Setup),
        new("mount", "", run => run.Mount),
        new("workload", "", run => run.Conditions.Workload),
        new("panel", "", run => run.Conditions.Panel),
        new("fans", "", run => run.Conditions.FanPolicy),
        new("fan percent", "%", run => run.Conditions.FanPercent),
        new("power cap", "W", run => run.Conditions.PowerCapW),
        new("trial", "", run => run.Conditions.Trial),
        new("duration", "s", run => run.Analysis.DurationSeconds),
        new("room", "°C", run => run.Analysis.AmbientC),
        new("limit", "°C", run => run.Conditions.TemperatureLimitC),
        new("peak", "°C", run => run.Analysis.Load?.PeakTemperatureC),
        new("sustained", "°C", run => run.Analysis.Load?.SustainedTemperatureC),
        new("sustained half-width", "°C", run => run.Analysis.Load?.SustainedHalfWidthC),
        new("power", "W", run => run.Analysis.Load?.SustainedPowerW),
        new("clock", "MHz", run => run.Analysis.Load?.SustainedClockMHz),
        new("fan", "rpm", run => run.Analysis.Load?.SustainedFanRpm),
        new("level", "yes or no", run => run.Analysis.Load?.Settled),
        new("own resistance", "°C/W", run => run.Analysis.OwnResistance?.ValueCPerW),
        new("score", "", run => run.Analysis.Load?.SustainedScore),
        new("held by heat", "yes or no", run => run.Analysis.ThermalLimit is not null),
    ];

    public static async Task<Results<FileContentHttpResult, ProblemHttpResult>> HandleAsync(
        Guid id,
        JobSheets sheets,
        CancellationToken cancellation
    ) =>
        await sheets.FindAsync(id, cancellation) is { } sheet
            ? CsvTable.Of(Columns, sheet.Runs, $"{sheet.Tag} runs.csv")
            : JobEndpoints.NoSuchJob();
}
