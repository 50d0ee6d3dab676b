using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Core.Logs;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Runs;
using Remedos.Data.Samples;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Runs;

/// <summary>
/// One channel of a trace: means, and above the samples themselves the lowest and highest of each group. Null where nothing was read.
/// </summary>
public sealed record TraceChannel(int Column, string Role, string Source, string Unit, float?[] Values, float?[]? Lows, float?[]? Highs);

/// <summary>The coolest and the hottest core of each row, °C.</summary>
public sealed record CoreBand(float?[] Lows, float?[] Highs);

/// <summary>A run drawn over time.</summary>
/// <param name="Level">0 for every sample; above it, groups of 16, 256 …</param>
/// <param name="Cores">With two cores or more, when they were asked for.</param>
public sealed record TraceAnswer(Guid RunId, int Level, double[] Seconds, IReadOnlyList<TraceChannel> Channels, CoreBand? Cores);

internal static class GetTrace
{
    /// <summary>What a trace shows unless it is asked for other channels: one of each.</summary>
    private static readonly ChannelRole[] Usual =
    [
        ChannelRole.CpuTemperature,
        ChannelRole.CpuPower,
        ChannelRole.CpuClock,
        ChannelRole.CpuFanSpeed,
        ChannelRole.AmbientTemperature,
    ];

    public static async Task<Results<Ok<TraceAnswer>, ProblemHttpResult>> HandleAsync(
        Guid id,
        double? from,
        double? to,
        int? points,
        int[]? columns,
        bool? cores,
        Caller caller,
        CancellationToken cancellation
    )
    {
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        if (await RunEndpoints.FindAsync(context, id, cancellation) is not { } run)
        {
            return RunEndpoints.NoSuchRun();
        }

        (double first, double last) = (from ?? 0, to ?? run.Analysis.DurationSeconds);
        if (!(first <= last))
        {
            return Refusal.Of($"A stretch goes from an earlier second to a later one, not from {first:0.###} to {last:0.###}.");
        }

        ChannelSummary[] wanted = columns is { Length: > 0 }
            ? [.. run.Analysis.Channels.Where(channel => columns.Contains(channel.Column))]
            : UsualOf(run);
        ChannelSummary[] coreChannels =
            cores == true
                ? [.. run.Analysis.Channels.Where(channel => channel.Role == ChannelRole.CoreTemperature.Name() && channel.Samples > 0)]
                : [];
        Stretch stretch = await SampleStore.ReadAsync(
            context,
            run.WorkshopId,
            run.Id,
            run.Rows,
            run.Analysis.DurationSeconds,
            [.. wanted.Concat(coreChannels).Select(channel => channel.Column).Distinct()],
            first,
            last,
            Math.Clamp(points ?? 2000, 100, 20000),
            cancellation
        );
        PyramidLevel[] ofCores =
        [
            .. coreChannels
                .Where(channel => stretch.Channels.ContainsKey(channel.Column))
                .Select(channel => stretch.Channels[channel.Column]),
        ];
        return TypedResults.Ok(
            new TraceAnswer(
                run.Id,
                stretch.Level,
                stretch.Seconds,
                [
                    .. wanted
                        .Where(channel => stretch.Channels.ContainsKey(channel.Column))
                        .Select(channel => Answer(channel, stretch.Channels[channel.Column], stretch.Level)),
                ],
                ofCores.Length < 2
                    ? null
                    : new CoreBand(
                        Across(ofCores, stretch.Level == 0 ? c => c.Means : c => c.Lows, Math.Min),
                        Across(ofCores, stretch.Level == 0 ? c => c.Means : c => c.Highs, Math.Max)
                    )
            )
        );
    }

    private static ChannelSummary[] UsualOf(Run run)
    {
        ChannelSummary[] usual = [.. Usual.Select(role => Best(run, role)).OfType<ChannelSummary>()];
        return
            usual.All(channel => channel.Role != ChannelRole.CpuTemperature.Name())
            && (Best(run, ChannelRole.CoreTemperature) ?? Best(run, ChannelRole.CpuControlTemperature)) is { } instead
            ? [instead, .. usual]
            : usual;
    }

    /// <summary>The lowest or highest of several channels at each point; null where none has a reading.</summary>
    private static float?[] Across(PyramidLevel[] channels, Func<PyramidLevel, float[]> of, Func<float, float, float> pick)
    {
        float[][] values = [.. channels.Select(of)];
        float?[] picked = new float?[values[0].Length];
        for (int i = 0; i < picked.Length; i++)
        {
            foreach (float[] channel in values)
            {
                picked[i] =
                    float.IsNaN(channel[i]) ? picked[i]
                    : picked[i] is { } so ? pick(so, channel[i])
                    : channel[i];
            }
        }

        return picked;
    }

    private static ChannelSummary? Best(Run run, ChannelRole role) =>
        run.Analysis.Channels.Where(channel => channel.Role == role.Name() && channel.Samples > 0).MaxBy(channel => channel.Samples);

    private static TraceChannel Answer(ChannelSummary channel, PyramidLevel data, int level) =>
        new(
            channel.Column,
            channel.Role,
            channel.Source,
            channel.Unit,
            WithNulls(data.Means),
            level == 0 ? null : WithNulls(data.Lows),
            level == 0 ? null : WithNulls(data.Highs)
        );

    private static float?[] WithNulls(float[] values) => [.. values.Select(value => float.IsNaN(value) ? (float?)null : value)];
}
