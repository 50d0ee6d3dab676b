using Microsoft.EntityFrameworkCore;
using Remedos.Core.Comparison;
using Remedos.Core.Handover;
using Remedos.Core.Logs;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Samples;
using Remedos.Server.Files;
using Remedos.Server.Jobs;
using Remedos.Server.Session;

namespace Remedos.Server.Reports;

/// <summary>All that the owner's page shows, whatever it is drawn on.</summary>
/// <param name="Owner">Owner and machine, in a line.</param>
internal sealed record OwnerReport(
    Letterhead From,
    string Tag,
    DateOnly Day,
    string Owner,
    OwnerPage Page,
    HeatStaircase? Now,
    HeatStaircase? Before,
    double? LimitC,
    IReadOnlyList<ReportTrace> Traces
)
{
    /// <summary>The graphics card, where it is the patient; and as it was before.</summary>
    public GpuFigures? Card { get; init; }

    /// <inheritdoc cref="Card"/>
    public GpuFigures? CardBefore { get; init; }

    private const int TracePoints = 300;

    /// <summary>The report of a job as its sheet is.</summary>
    public static async Task<OwnerReport> OfAsync(
        JobSheet sheet,
        RemedosContext context,
        Workshop workshop,
        IFileStore files,
        DateTimeOffset now,
        CancellationToken cancellation
    )
    {
        RunAnswer? before = LastOf(sheet, sheet.Pair.Before),
            after = LastOf(sheet, sheet.Pair.After),
            last = after ?? before;
        bool ofChip = sheet.Pair.Subject == Subject.Processor.Name();
        List<ReportTrace> traces = [];
        foreach ((string title, RunAnswer? run) in new[] { ("Before", before), ("After", after) })
        {
            if (run is not null && await TraceAsync(context, workshop.Id, title, run, !ofChip, cancellation) is { } trace)
            {
                traces.Add(trace);
            }
        }

        IReadOnlyDictionary<string, object?> fields = sheet.Fields.Values;
        DateTimeOffset at = fields["handedOverAt"] is DateTimeOffset handed ? handed : now;
        return new OwnerReport(
            await Letterhead.OfAsync(workshop, files, cancellation),
            sheet.Tag,
            DateOnly.FromDateTime(WorkshopClock.At(workshop, at).Date),
            string.Join(" · ", new[] { fields["owner"], fields["machine"] }.OfType<string>()),
            sheet.OwnerPage,
            ofChip ? last?.Analysis.Staircase : null,
            ofChip && after is not null ? before?.Analysis.Staircase : null,
            last?.Conditions.TemperatureLimitC,
            traces
        )
        {
            Card = ofChip ? null : last?.Analysis.Graphics,
            CardBefore = ofChip || after is null ? null : before?.Analysis.Graphics,
        };
    }

    private static RunAnswer? LastOf(JobSheet sheet, IReadOnlyList<Guid> ids) => sheet.Runs.LastOrDefault(run => ids.Contains(run.Id));

    /// <summary>A run's temperature as it is drawn; null where the log has none.</summary>
    /// <param name="ofCard">The graphics card's, under its own load, instead of the processor's.</param>
    internal static async Task<ReportTrace?> TraceAsync(
        RemedosContext context,
        Guid workshop,
        string title,
        RunAnswer run,
        bool ofCard,
        CancellationToken cancellation
    )
    {
        RunAnalysis analysis = run.Analysis;
        string role = (ofCard ? ChannelRole.GpuTemperature : ChannelRole.CpuTemperature).Name();
        if (analysis.Channels.FirstOrDefault(one => one.Role == role) is not { } channel)
        {
            return null;
        }

        Stretch stretch = await SampleStore.ReadAsync(
            context,
            workshop,
            run.Id,
            await context
                .Runs.Where(one => one.WorkshopId == workshop && one.Id == run.Id)
                .Select(one => one.Rows)
                .SingleAsync(cancellation),
            analysis.DurationSeconds,
            [channel.Column],
            0,
            analysis.DurationSeconds,
            TracePoints,
            cancellation
        );
        if (!stretch.Channels.TryGetValue(channel.Column, out PyramidLevel? level))
        {
            return null;
        }

        (double Second, double C)[] points =
        [
            .. stretch.Seconds.Zip(level.Means, (second, c) => (second, (double)c)).Where(point => double.IsFinite(point.Item2)),
        ];
        GpuFigures? card = ofCard ? analysis.Graphics : null;
        Phase? load = ofCard ? card?.Load : analysis.Phases.FirstOrDefault(phase => phase.Kind == PhaseKind.Load);
        return new ReportTrace(
            title,
            [.. points.Select(point => point.Second)],
            [.. points.Select(point => point.C)],
            analysis.DurationSeconds,
            load?.StartSeconds,
            load?.EndSeconds,
            ofCard ? card?.Core.SustainedC : analysis.Load?.SustainedTemperatureC,
            ofCard ? card?.Core.LimitC : run.Conditions.TemperatureLimitC
        );
    }
}
