using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Core.Logs;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Server.Jobs;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Runs;

/// <summary>A column of a log: what it is taken for, how surely, its first values, and of a run that was read its samples.</summary>
public sealed record ColumnAnswer(
    int Column,
    string Source,
    string Role,
    string Unit,
    double Confidence,
    int? Samples,
    int? Rejected,
    IReadOnlyList<string> First
);

/// <summary>What a technician says a column is, and the version of the run that the page saw.</summary>
public sealed record RoleChange(string Role, uint Version);

/// <summary>
/// Shows what each column of a run's log is taken for, and lets a technician overrule it, for this run and for every later log with the
/// same header.
/// </summary>
internal static class ColumnDesk
{
    public static async Task<Results<Ok<ColumnAnswer[]>, ProblemHttpResult>> ListAsync(
        Guid id,
        Caller caller,
        RunReader reader,
        CancellationToken cancellation
    )
    {
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        if (await RunEndpoints.FindAsync(context, id, cancellation) is not { } run)
        {
            return RunEndpoints.NoSuchRun();
        }

        string sha256 = await RunReader.Sha256Async(context, run.WorkshopId, run.LogFileId, cancellation);
        LogColumns columns = (await reader.ColumnsAsync(context, run.WorkshopId, sha256, cancellation))!;
        return TypedResults.Ok(
            columns
                .Columns.Select(column => Answer(column, run.Analysis.Channels.SingleOrDefault(c => c.Column == column.Column)))
                .ToArray()
        );
    }

    public static ColumnAnswer Answer(LogColumn column, ChannelSummary? read) =>
        new(column.Column, column.Source, column.Role.Name(), column.Unit, column.Confidence, read?.Samples, read?.Rejected, column.First);

    public static async Task<Results<Ok<JobSheet>, ProblemHttpResult>> SayAsync(
        Guid id,
        int column,
        RoleChange change,
        RunDoor door,
        Caller caller,
        RunReader reader,
        CancellationToken cancellation
    )
    {
        if (ColumnRoles.Refuse(change.Role, mayBeTime: false, out ChannelRole role) is { } refused)
        {
            return refused;
        }

        RunReading reading;
        ChannelSummary before;
        await using (RemedosContext context = await caller.OpenAsync(cancellation))
        {
            if (await RunEndpoints.FindAsync(context, id, cancellation) is not { } run)
            {
                return RunEndpoints.NoSuchRun();
            }

            if (run.Analysis.Channels.SingleOrDefault(c => c.Column == column) is not { } found || found.Role == ChannelRole.Time.Name())
            {
                return Refusal.Of("The time’s column stays the time’s.");
            }

            if (
                !run.Analysis.Channels.Any(c =>
                    c.Samples > 0 && ChannelRoles.IsProcessorTemperature(c.Column == column ? role.Name() : c.Role)
                )
            )
            {
                return Refusal.Of("No processor temperature would be left. Say first which other column holds it.");
            }

            before = found;
            reading = await reader.AnalyzeAsync(context, run, run.Conditions, (column, role), cancellation);
        }

        return await door.ChangeAsync(id, change.Version, Apply, cancellation);

        async Task<ProblemHttpResult?> Apply(RunChange at)
        {
            if (at.Run.Version != reading.Version)
            {
                return RunEndpoints.ChangedElsewhere();
            }

            await ColumnRoles.ApplyAsync(at.Write, reader, at.Run, reading, column, change.Role);
            at.Event(JobEvents.Role, $"{at.Run.Id}/{column}", JsonSerializer.Serialize(before.Role), JsonSerializer.Serialize(change.Role));
            return null;
        }
    }
}
