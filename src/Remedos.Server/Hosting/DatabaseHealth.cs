using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Diagnostics.HealthChecks;
using Remedos.Data;

namespace Remedos.Server.Hosting;

/// <summary>Healthy while the database answers.</summary>
internal sealed class DatabaseHealth(IDbContextFactory<RemedosContext> contexts) : IHealthCheck
{
    public async Task<HealthCheckResult> CheckHealthAsync(HealthCheckContext context, CancellationToken cancellationToken = default)
    {
        await using RemedosContext database = await contexts.CreateDbContextAsync(cancellationToken);
        return await database.Database.CanConnectAsync(cancellationToken) ? HealthCheckResult.Healthy() : HealthCheckResult.Unhealthy("The database does not answer.");
    }
}
