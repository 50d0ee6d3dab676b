using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Server.Session;

namespace Remedos.Server.Bays;

/// <summary>
/// Closes live pages whose sign-in has ended or has gone to another workshop, whichever server was told so: a connection that is open asks
/// for nothing, and would go on.
/// </summary>
internal sealed class EndedSignIns(IDbContextFactory<RemedosContext> contexts, LiveBays live, TimeProvider clock, ILogger<EndedSignIns> log)
    : BackgroundService
{
    private static readonly TimeSpan Every = TimeSpan.FromSeconds(20);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using PeriodicTimer timer = new(Every, clock);
        while (await timer.WaitForNextTickAsync(stoppingToken))
        {
            Guid[] open = [.. live.SignIns];
            if (open.Length == 0)
            {
                continue;
            }

            try
            {
                await using RemedosContext context = await contexts.CreateDbContextAsync(stoppingToken);
                // A person who has left is out as well: another role is looked up with each request, but a live page makes none.
                Dictionary<Guid, Guid> hold = await SignInTickets
                    .Valid(context, clock.GetUtcNow())
                    .Where(one => open.Contains(one.Id))
                    .Where(one => context.People.Any(person => person.Id == one.PersonId && person.LeftAt == null))
                    .ToDictionaryAsync(one => one.Id, one => one.WorkshopId, stoppingToken);
                foreach (Guid signIn in open)
                {
                    // One that has gone to another workshop follows no bays of the one before.
                    live.Drop(signIn, but: hold.TryGetValue(signIn, out Guid workshop) ? workshop : null);
                }
            }
            catch (Exception failure) when (failure is not OperationCanceledException)
            {
                log.LogWarning(failure, "Whether the live pages’ sign-ins still hold could not be asked");
            }
        }
    }
}
