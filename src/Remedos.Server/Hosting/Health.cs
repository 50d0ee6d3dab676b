using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Diagnostics.HealthChecks;
using Remedos.Data;
using Remedos.Server.Bays;
using Remedos.Server.Files;
using Remedos.Server.Queue;

namespace Remedos.Server.Hosting;

/// <summary>
/// Healthy while the database answers and the file store is this database's; degraded while work has failed for good or waits for long.
/// </summary>
internal sealed class Health(IDbContextFactory<RemedosContext> contexts, IFileStore files, QueueFigures figures, NewsLine line)
    : IHealthCheck
{
    private static readonly TimeSpan LongWait = TimeSpan.FromMinutes(10);

    public async Task<HealthCheckResult> CheckHealthAsync(HealthCheckContext context, CancellationToken cancellationToken = default)
    {
        await using RemedosContext database = await contexts.CreateDbContextAsync(cancellationToken);
        if (!await database.Database.CanConnectAsync(cancellationToken))
        {
            return HealthCheckResult.Unhealthy("The database does not answer.");
        }

        Guid? store;
        try
        {
            store = await files.IdentityAsync(cancellationToken);
        }
        catch (StoreAwayException)
        {
            return HealthCheckResult.Unhealthy("The file store does not answer.");
        }

        if (store != await database.Installations.Select(one => (Guid?)one.StoreId).SingleOrDefaultAsync(cancellationToken))
        {
            return HealthCheckResult.Unhealthy("The file store is not the one that belongs to this database.");
        }

        QueueStand queue = await figures.NowAsync(database, cancellationToken);
        string? lastError =
            queue.SetAside > 0
                ? await database
                    .WorkItems.Where(i => i.SetAsideAt != null)
                    .OrderByDescending(i => i.SetAsideAt)
                    .Select(i => i.Kind + ": " + i.LastError)
                    .FirstAsync(cancellationToken)
                : null;
        int missing = await database.Runs.CountAsync(run => run.MissingOriginal, cancellationToken);
        string? backup = await database
            .BackupStands.Where(one => one.Problem != null && database.Workshops.Any(w => w.Id == one.WorkshopId && w.BackupAt != null))
            .Select(one => one.Problem)
            .FirstOrDefaultAsync(cancellationToken);
        Dictionary<string, object> data = new()
        {
            ["workWaiting"] = queue.Waiting,
            ["oldestWorkSeconds"] = Math.Round(queue.Age.TotalSeconds),
            ["workSetAside"] = queue.SetAside,
            ["runsWithoutOriginal"] = missing,
        };
        return queue.SetAside > 0 ? HealthCheckResult.Degraded($"Work has failed for good; the last was {lastError}", data: data)
            : queue.Age > LongWait ? HealthCheckResult.Degraded("Work waits for longer than ten minutes.", data: data)
            : line is { IsNamed: true, IsUp: false }
                ? HealthCheckResult.Degraded("Redis does not answer: bays of other servers are shown a second or two late.", data: data)
            : backup is not null ? HealthCheckResult.Degraded($"The last backup was not made. {backup}", data: data)
            : missing > 0 ? HealthCheckResult.Degraded($"{missing} runs have lost their original.", data: data)
            : HealthCheckResult.Healthy(data: data);
    }

    /// <summary>
    /// Writes the report as JSON: a status, and for whoever is signed in a sentence where it is not healthy, and figures.
    /// </summary>
    public static Task WriteAsync(HttpContext context, HealthReport report) =>
        context.Items[typeof(Session.Who)] is null
            ? context.Response.WriteAsJsonAsync(new { status = report.Status.ToString().ToLowerInvariant() })
            : context.Response.WriteAsJsonAsync(
                new
                {
                    status = report.Status.ToString().ToLowerInvariant(),
                    sentence = report.Entries.Values.Select(entry => entry.Description).FirstOrDefault(sentence => sentence is not null),
                    figures = report.Entries.Values.SelectMany(entry => entry.Data).ToDictionary(),
                }
            );
}
