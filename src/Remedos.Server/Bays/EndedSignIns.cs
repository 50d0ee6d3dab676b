using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Server.Hosting;
using Remedos.Server.Session;

namespace Remedos.Server.Bays;

/// <summary>
/// Closes live pages whose sign-in has ended or has gone to another workshop, whichever server was told so: a connection that is open asks
/// for nothing, and would go on.
/// </summary>
internal sealed class EndedSignIns(IDbContextFactory<RemedosContext> contexts, LiveBays live, TimeProvider clock, ILogger<EndedSignIns> log)
    : Recurring(TimeSpan.FromSeconds(20), clock, log)
{
    private readonly TimeProvider _clock = clock;

    protected override string WhatFails => "Whether the live pages’ sign-ins still hold could not be asked";

    public override async Task RunAsync(CancellationToken cancellation)
    {
        Guid[] open = [.. live.SignIns];
        if (open.Length == 0)
        {
            return;
        }

        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        // A person who has left is out as well: another role is looked up with each request, but a live page makes none.
        Dictionary<Guid, Guid> hold = await SignInTickets
            .Valid(context, _clock.GetUtcNow())
            .Where(one => open.Contains(one.Id))
            .Where(one => context.People.Any(person => person.Id == one.PersonId && person.LeftAt == null))
            .ToDictionaryAsync(one => one.Id, one => one.WorkshopId, cancellation);
        Guid[] workshops = [.. hold.Values.Distinct()];
        ILookup<Guid, Guid> practice = (
            await context
                .Workshops.Where(one => workshops.Contains(one.PracticeOf!.Value))
                .Select(one => new { one.Id, Of = one.PracticeOf!.Value })
                .ToListAsync(cancellation)
        ).ToLookup(one => one.Of, one => one.Id);
        foreach (Guid signIn in open)
        {
            // One that has gone to another workshop follows no bays of the one before.
            live.Drop(signIn, but: hold.TryGetValue(signIn, out Guid workshop) ? [workshop, .. practice[workshop]] : []);
        }
    }
}
