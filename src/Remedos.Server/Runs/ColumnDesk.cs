using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Logs;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Runs;
using Remedos.Server.Jobs;
using Remedos.Server.Session;

namespace Remedos.Server.Runs;

/// <summary>A column of a log: what it is taken for, how surely, its first values, and of a run that was read its samples.</summary>
public sealed record ColumnAnswer(int Column, string Source, string Role, string Unit, double Confidence, int? Samples, int? Rejected, IReadOnlyList<string> First);

/// <summary>What a technician says a column is, and the version of the run that the page saw.</summary>
public sealed record RoleChange(string Role, uint Version);

/// <summary>Shows what each column of a run's log is taken for, and lets a technician overrule it, for this run and for every later log with the same header.</summary>
internal static class ColumnDesk
{
    public static async Task<Results<Ok<ColumnAnswer[]>, ProblemHttpResult>> ListAsync(Guid id, Bench bench, IDbContextFactory<RemedosContext> contexts, RunReader reader, CancellationToken cancellation)
    {
        (Workshop workshop, _) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        Run? run = await context.Runs.AsNoTracking().SingleOrDefaultAsync(r => r.Id == id && r.WorkshopId == workshop.Id, cancellation);
        if (run is null)
        {
            return RunEndpoints.NoSuchRun();
        }

        LogColumns columns = reader.Columns(workshop.Id, await reader.Sha256Async(context, run.LogFileId, cancellation))!;
        return TypedResults.Ok(columns.Columns.Select(column => Answer(column, run.Analysis.Channels.SingleOrDefault(c => c.Column == column.Column))).ToArray());
    }

    public static ColumnAnswer Answer(LogColumn column, ChannelSummary? read) =>
        new(column.Column, column.Source, column.Role.Name(), column.Unit, column.Confidence, read?.Samples, read?.Rejected, column.First);

    public static async Task<Results<Ok<JobSheet>, ProblemHttpResult>> SayAsync(Guid id, int column, RoleChange change, RunChanges changes, RunReader reader, CancellationToken cancellation)
    {
        return ColumnRoles.Refuse(change.Role, mayBeTime: false, out ChannelRole role) is { } refused ? refused : await changes.ApplyAsync(id, change.Version, Apply, cancellation);

        async Task<ProblemHttpResult?> Apply(RunChange at)
        {
            Run run = at.Run;
            ChannelSummary? before = run.Analysis.Channels.SingleOrDefault(c => c.Column == column);
            if (before is null || before.Role == ChannelRole.Time.Name())
            {
                return RunChanges.Refused("The time’s column stays the time’s.");
            }

            if (!run.Analysis.Channels.Any(c => c.Samples > 0 && ChannelRoles.IsProcessorTemperature(c.Column == column ? role.Name() : c.Role)))
            {
                return RunChanges.Refused("No processor temperature would be left. Say first which other column holds it.");
            }

            string sha256 = await reader.Sha256Async(at.Context, run.LogFileId, cancellation);
            await ColumnRoles.RememberAsync(at.Context, run.WorkshopId, reader.Columns(run.WorkshopId, sha256)!.HeaderFingerprint, column, change.Role, at.Now, cancellation);
            await reader.AnalyzeAnewAsync(at.Context, run, cancellation);
            await ColumnRoles.SpreadAsync(at.Context, run, sha256, cancellation);
            at.Append(JobEvents.Role, $"{run.Id}/{column}", JsonSerializer.Serialize(before.Role), JsonSerializer.Serialize(change.Role));
            return null;
        }
    }
}
