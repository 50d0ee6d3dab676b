using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Logs;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Runs;
using Remedos.Data.Samples;
using Remedos.Server.Session;

namespace Remedos.Server.Runs;

/// <summary>One channel of a trace: means, and above the samples themselves the lowest and highest of each group. Null where nothing was read.</summary>
public sealed record TraceChannel(int Column, string Role, string Source, string Unit, float?[] Values, float?[]? Lows, float?[]? Highs);

/// <summary>A run drawn over time.</summary>
/// <param name="Level">0 for every sample; above it, groups of 16, 256 …</param>
public sealed record TraceAnswer(Guid RunId, int Level, double[] Seconds, IReadOnlyList<TraceChannel> Channels);

internal static class GetTrace
{
    /// <summary>What a trace shows unless it is asked for other channels: one of each.</summary>
    private static readonly ChannelRole[] Usual = [ChannelRole.CpuTemperature, ChannelRole.CpuPower, ChannelRole.CpuClock, ChannelRole.CpuFanSpeed, ChannelRole.AmbientTemperature];

    public static async Task<Results<Ok<TraceAnswer>, ProblemHttpResult>> HandleAsync(
        Guid id, double? from, double? to, int? points, Bench bench, IDbContextFactory<RemedosContext> contexts, CancellationToken cancellation)
    {
        (Workshop workshop, _) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        Run? run = await context.Runs.AsNoTracking().SingleOrDefaultAsync(r => r.Id == id && r.WorkshopId == workshop.Id, cancellation);
        if (run is null)
        {
            return RunEndpoints.NoSuchRun();
        }

        ChannelSummary[] wanted = [.. Usual.Select(role => Best(run, role)).OfType<ChannelSummary>()];
        if (wanted.All(channel => channel.Role != ChannelRole.CpuTemperature.Name()) && (Best(run, ChannelRole.CoreTemperature) ?? Best(run, ChannelRole.CpuControlTemperature)) is { } instead)
        {
            wanted = [instead, .. wanted];
        }

        Stretch stretch = await SampleStore.ReadAsync(
            context, workshop.Id, run.Id, run.Rows, run.Analysis.DurationSeconds, [.. wanted.Select(channel => channel.Column)],
            from ?? 0, to ?? run.Analysis.DurationSeconds, Math.Clamp(points ?? 2000, 100, 20000), cancellation);
        return TypedResults.Ok(new TraceAnswer(
            run.Id,
            stretch.Level,
            stretch.Seconds,
            [.. wanted.Where(channel => stretch.Channels.ContainsKey(channel.Column)).Select(channel => Answer(channel, stretch.Channels[channel.Column], stretch.Level))]));
    }

    private static ChannelSummary? Best(Run run, ChannelRole role) =>
        run.Analysis.Channels.Where(channel => channel.Role == role.Name() && channel.Samples > 0).MaxBy(channel => channel.Samples);

    private static TraceChannel Answer(ChannelSummary channel, PyramidLevel data, int level) =>
        new(channel.Column, channel.Role, channel.Source, channel.Unit, WithNulls(data.Means), level == 0 ? null : WithNulls(data.Lows), level == 0 ? null : WithNulls(data.Highs));

    private static float?[] WithNulls(float[] values) => [.. values.Select(value => float.IsNaN(value) ? (float?)null : value)];
}
