using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Logs;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Jobs;
using Remedos.Server.Session;

namespace Remedos.Server.Runs;

/// <summary>A column of a run's log: what it is taken for, how surely, and its first values.</summary>
public sealed record ColumnAnswer(int Column, string Source, string Role, string Unit, double Confidence, int Samples, int Rejected, IReadOnlyList<float> First);

/// <summary>What a technician says a column is, and the version of the run that the page saw.</summary>
public sealed record RoleChange(string Role, uint Version);

/// <summary>Shows what each column of a log is taken for, and lets a technician overrule it, for this run and for every later log with the same header.</summary>
internal static class ColumnDesk
{
    private const int FirstValues = 5;

    public static async Task<Results<Ok<ColumnAnswer[]>, ProblemHttpResult>> ListAsync(Guid id, Bench bench, IDbContextFactory<RemedosContext> contexts, RunReader reader, CancellationToken cancellation)
    {
        (Workshop workshop, _) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        Run? run = await context.Runs.AsNoTracking().SingleOrDefaultAsync(r => r.Id == id && r.WorkshopId == workshop.Id, cancellation);
        if (run is null)
        {
            return RunEndpoints.NoSuchRun();
        }

        (Log log, _) = await reader.ReadAnewAsync(run, run.Conditions, cancellation);
        return TypedResults.Ok(log.Channels.Select(c => new ColumnAnswer(
            c.Column, c.Source, c.Role.Name(), c.Unit, c.Confidence, c.Samples, c.Rejected, [.. c.Values.Where(v => !float.IsNaN(v)).Take(FirstValues)])).ToArray());
    }

    public static async Task<Results<Ok<JobSheet>, ProblemHttpResult>> SayAsync(
        Guid id, int column, RoleChange change, Bench bench, IDbContextFactory<RemedosContext> contexts, RunReader reader, JobSheets sheets, TimeProvider clock, CancellationToken cancellation)
    {
        if (!ChannelRoles.TryParse(change.Role, out ChannelRole role) || role == ChannelRole.Time)
        {
            return TypedResults.Problem($"“{change.Role}” is no role that a column can be given.", statusCode: StatusCodes.Status422UnprocessableEntity);
        }

        (Workshop workshop, Person person) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        Run? run = await context.Runs.SingleOrDefaultAsync(r => r.Id == id && r.WorkshopId == workshop.Id, cancellation);
        if (run is null)
        {
            return RunEndpoints.NoSuchRun();
        }

        if (run.Version != change.Version)
        {
            return TypedResults.Problem("This run was changed elsewhere just now. It is shown anew; say it again if it still holds.", statusCode: StatusCodes.Status409Conflict);
        }

        ChannelSummary? before = run.Analysis.Channels.SingleOrDefault(c => c.Column == column);
        if (before is null || before.Role == ChannelRole.Time.Name())
        {
            return TypedResults.Problem("The time’s column stays the time’s.", statusCode: StatusCodes.Status422UnprocessableEntity);
        }

        (Log log, _) = await reader.ReadAnewAsync(run, run.Conditions, cancellation);
        if (!log.Channels.Any(c => c.Samples > 0 && (c.Column == column ? role : c.Role) is ChannelRole.CpuTemperature or ChannelRole.CoreTemperature or ChannelRole.CpuControlTemperature))
        {
            return TypedResults.Problem("No processor temperature would be left. Say first which other column holds it.", statusCode: StatusCodes.Status422UnprocessableEntity);
        }

        DateTimeOffset now = clock.GetUtcNow();
        await RememberAsync(context, workshop.Id, log.HeaderFingerprint, column, change.Role, now, cancellation);
        (_, run.Analysis) = await reader.ReadAnewAsync(run, run.Conditions, cancellation);
        Job job = await context.Jobs.SingleAsync(j => j.Id == run.JobId, cancellation);
        context.Append(job, person.Id, now, JobEvents.Role, $"{run.Id}/{column}", JsonSerializer.Serialize(before.Role), JsonSerializer.Serialize(change.Role));
        await context.SaveTouchingJobAsync(job, cancellation);
        return TypedResults.Ok((await sheets.FindAsync(run.JobId, cancellation))!);
    }

    /// <summary>Keeps a column's role for its header.</summary>
    public static async Task RememberAsync(RemedosContext context, Guid workshopId, string fingerprint, int column, string role, DateTimeOffset now, CancellationToken cancellation)
    {
        RememberedRoles? kept = await context.RememberedRoles.AsNoTracking().SingleOrDefaultAsync(r => r.WorkshopId == workshopId && r.Fingerprint == fingerprint, cancellation);
        Dictionary<int, string> roles = new(kept?.Roles ?? []) { [column] = role };
        string json = JsonSerializer.Serialize(roles, RemedosContext.Json);
        await context.Database.ExecuteSqlAsync($"""
            INSERT INTO remembered_roles (workshop_id, fingerprint, roles, changed_at) VALUES ({workshopId}, {fingerprint}, {json}::jsonb, {now})
            ON CONFLICT (workshop_id, fingerprint) DO UPDATE SET roles = EXCLUDED.roles, changed_at = EXCLUDED.changed_at
            """, cancellation);
    }
}
