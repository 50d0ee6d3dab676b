using Microsoft.EntityFrameworkCore;
using Npgsql;
using NpgsqlTypes;
using Remedos.Core.Logs;

namespace Remedos.Data.Samples;

/// <summary>A stretch of a run for a chart: a time base and, for each channel asked for, means with their lowest and highest.</summary>
public sealed record Stretch(int Level, double[] Seconds, IReadOnlyDictionary<int, PyramidLevel> Channels);

/// <summary>Writes and reads a run's samples, past the change tracker.</summary>
public static class SampleStore
{
    private const int ChunkRows = 4096;

    /// <summary>Writes a log's samples and pyramid by binary COPY on the context's connection and inside its transaction.</summary>
    public static async Task WriteAsync(RemedosContext context, Guid workshopId, Guid runId, Log log, CancellationToken cancellation)
    {
        NpgsqlConnection connection = (NpgsqlConnection)context.Database.GetDbConnection();
        await using (
            NpgsqlBinaryImporter times = await connection.BeginBinaryImportAsync(
                "COPY time_chunks (workshop_id, run_id, level, chunk, seconds) FROM STDIN (FORMAT BINARY)",
                cancellation
            )
        )
        {
            double[] seconds = log.TimeSeconds;
            for (short level = 0; level <= Pyramid.Levels(log.Samples); level++)
            {
                for (int chunk = 0; chunk * ChunkRows < seconds.Length; chunk++)
                {
                    await times.StartRowAsync(cancellation);
                    await times.WriteAsync(workshopId, NpgsqlDbType.Uuid, cancellation);
                    await times.WriteAsync(runId, NpgsqlDbType.Uuid, cancellation);
                    await times.WriteAsync(level, NpgsqlDbType.Smallint, cancellation);
                    await times.WriteAsync(chunk, NpgsqlDbType.Integer, cancellation);
                    await times.WriteAsync(Slice(seconds, chunk), NpgsqlDbType.Array | NpgsqlDbType.Double, cancellation);
                }

                seconds = Pyramid.Times(seconds);
            }

            await times.CompleteAsync(cancellation);
        }

        await using NpgsqlBinaryImporter samples = await connection.BeginBinaryImportAsync(
            "COPY sample_chunks (workshop_id, run_id, level, channel, chunk, values, lows, highs) FROM STDIN (FORMAT BINARY)",
            cancellation
        );
        foreach (Channel channel in log.Channels.Where(channel => channel.Samples > 0 && channel.Values.Length > 0))
        {
            PyramidLevel level = new(channel.Values, channel.Values, channel.Values);
            await WriteLevelAsync(
                samples,
                workshopId,
                runId,
                0,
                (short)channel.Column,
                new PyramidLevel(channel.Values, [], []),
                cancellation
            );
            for (short above = 1; above <= Pyramid.Levels(log.Samples); above++)
            {
                level = Pyramid.Next(level);
                await WriteLevelAsync(samples, workshopId, runId, above, (short)channel.Column, level, cancellation);
            }
        }

        await samples.CompleteAsync(cancellation);
    }

    /// <summary>Writes a run's samples in place of those that are there, inside the context's transaction.</summary>
    public static async Task ReplaceAsync(RemedosContext context, Guid workshopId, Guid runId, Log log, CancellationToken cancellation)
    {
        await context.SampleChunks.Where(chunk => chunk.WorkshopId == workshopId && chunk.RunId == runId).ExecuteDeleteAsync(cancellation);
        await context.TimeChunks.Where(chunk => chunk.WorkshopId == workshopId && chunk.RunId == runId).ExecuteDeleteAsync(cancellation);
        await WriteAsync(context, workshopId, runId, log, cancellation);
    }

    /// <summary>Reads the finest level that has at most about <paramref name="points"/> points between two times.</summary>
    /// <param name="context">Where from.</param>
    /// <param name="workshopId">Whose.</param>
    /// <param name="runId">Which run.</param>
    /// <param name="rows">The run's rows at level 0.</param>
    /// <param name="duration">The run's length, s.</param>
    /// <param name="channels">Columns wanted.</param>
    /// <param name="from">First second.</param>
    /// <param name="to">Last second.</param>
    /// <param name="points">How many are of use.</param>
    /// <param name="cancellation">Stops the reading.</param>
    public static async Task<Stretch> ReadAsync(
        RemedosContext context,
        Guid workshopId,
        Guid runId,
        int rows,
        double duration,
        int[] channels,
        double from,
        double to,
        int points,
        CancellationToken cancellation
    )
    {
        double inside = rows * Math.Clamp((to - from) / Math.Max(duration, 1e-9), 0, 1);
        short level = 0;
        while (level < Pyramid.Levels(rows) && inside > 4 * points)
        {
            level++;
            inside /= Pyramid.GroupSize;
        }

        double[][] times = await context
            .TimeChunks.AsNoTracking()
            .Where(chunk => chunk.WorkshopId == workshopId && chunk.RunId == runId && chunk.Level == level)
            .OrderBy(chunk => chunk.Chunk)
            .Select(chunk => chunk.Seconds)
            .ToArrayAsync(cancellation);
        double[] all = [.. times.SelectMany(chunk => chunk)];
        int first = Math.Max(0, FirstAtOrAfter(all, from) - 1),
            behind = Math.Min(all.Length, FirstAtOrAfter(all, to) + 1);
        (int firstChunk, int lastChunk) = (first / ChunkRows, Math.Max(first, behind - 1) / ChunkRows);
        short[] wanted = [.. channels.Select(channel => (short)channel)];
        List<SampleChunk> chunks = await context
            .SampleChunks.AsNoTracking()
            .Where(chunk =>
                chunk.WorkshopId == workshopId
                && chunk.RunId == runId
                && chunk.Level == level
                && wanted.Contains(chunk.Channel)
                && chunk.Chunk >= firstChunk
                && chunk.Chunk <= lastChunk
            )
            .OrderBy(chunk => chunk.Channel)
            .ThenBy(chunk => chunk.Chunk)
            .ToListAsync(cancellation);
        (int skip, int take) = (first - (firstChunk * ChunkRows), behind - first);
        float[] Joined(IEnumerable<SampleChunk> parts, Func<SampleChunk, float[]> of) => [.. parts.SelectMany(of).Skip(skip).Take(take)];
        return new Stretch(
            level,
            all[first..behind],
            chunks
                .GroupBy(chunk => (int)chunk.Channel)
                .ToDictionary(
                    group => group.Key,
                    group => new PyramidLevel(Joined(group, c => c.Values), Joined(group, c => c.Lows), Joined(group, c => c.Highs))
                )
        );
    }

    private static async Task WriteLevelAsync(
        NpgsqlBinaryImporter samples,
        Guid workshopId,
        Guid runId,
        short level,
        short channel,
        PyramidLevel data,
        CancellationToken cancellation
    )
    {
        for (int chunk = 0; chunk * ChunkRows < data.Means.Length; chunk++)
        {
            await samples.StartRowAsync(cancellation);
            await samples.WriteAsync(workshopId, NpgsqlDbType.Uuid, cancellation);
            await samples.WriteAsync(runId, NpgsqlDbType.Uuid, cancellation);
            await samples.WriteAsync(level, NpgsqlDbType.Smallint, cancellation);
            await samples.WriteAsync(channel, NpgsqlDbType.Smallint, cancellation);
            await samples.WriteAsync(chunk, NpgsqlDbType.Integer, cancellation);
            await samples.WriteAsync(Slice(data.Means, chunk), NpgsqlDbType.Array | NpgsqlDbType.Real, cancellation);
            await samples.WriteAsync(level == 0 ? [] : Slice(data.Lows, chunk), NpgsqlDbType.Array | NpgsqlDbType.Real, cancellation);
            await samples.WriteAsync(level == 0 ? [] : Slice(data.Highs, chunk), NpgsqlDbType.Array | NpgsqlDbType.Real, cancellation);
        }
    }

    private static T[] Slice<T>(T[] values, int chunk) => values[(chunk * ChunkRows)..Math.Min(values.Length, (chunk + 1) * ChunkRows)];

    private static int FirstAtOrAfter(double[] times, double seconds)
    {
        int index = Array.BinarySearch(times, seconds);
        return index < 0 ? ~index : index;
    }
}
