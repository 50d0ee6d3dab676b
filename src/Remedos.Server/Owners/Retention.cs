using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using Remedos.Data;
using Remedos.Data.People;
using Remedos.Data.Samples;
using Remedos.Server.Files;
using Remedos.Server.Hosting;
using Remedos.Server.Jobs;

namespace Remedos.Server.Owners;

/// <summary>
/// Forgets by rule, every hour: owners of machines that left so long ago as the workshop has set, who came and went, sign-ins and links
/// that
/// are over. Once there, it has a place ready for the samples of the months to come.
/// </summary>
internal sealed class Retention(IDbContextFactory<RemedosContext> contexts, IFileStore files, TimeProvider clock, ILogger<Retention> log)
    : Recurring(TimeSpan.FromHours(1), clock, log)
{
    private const long Lock = 7_304_122;

    private const int AtOnce = 100;

    private static readonly TimeSpan Over = TimeSpan.FromDays(30);

    private readonly TimeProvider _clock = clock;

    protected override string WhatFails => "What is to be forgotten could not be forgotten";

    /// <summary>Forgets what is due; on several servers, one at a time.</summary>
    public override async Task RunAsync(CancellationToken cancellation)
    {
        DateTimeOffset now = _clock.GetUtcNow();
        await using RemedosContext every = await contexts.CreateDbContextAsync(cancellation);
        DateTimeOffset over = now - Over;
        await SampleMonths.EnsureAsync(every, DateOnly.FromDateTime(now.UtcDateTime), cancellation);
        await every.SignIns.Where(one => one.EndedAt < over || one.At < over).ExecuteDeleteAsync(cancellation);
        await every.Invitations.Where(one => one.UsedAt < over || one.ExpiresAt < over).ExecuteDeleteAsync(cancellation);
        foreach (Workshop workshop in await every.Workshops.AsNoTracking().ToListAsync(cancellation))
        {
            DateTimeOffset access = now.AddMonths(-workshop.KeepAccessMonths);
            await every.AccessEvents.Where(one => one.WorkshopId == workshop.Id && one.At < access).ExecuteDeleteAsync(cancellation);
            if (workshop.ForgetOwnersAfterMonths is { } months)
            {
                while (await ForgetAsync(workshop, now.AddMonths(-months), now, cancellation) == AtOnce)
                {
                    // Many at the first time; each hundred is a change of its own.
                }
            }
        }
    }

    private async Task<int> ForgetAsync(Workshop workshop, DateTimeOffset before, DateTimeOffset now, CancellationToken cancellation)
    {
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        context.Workshop = workshop.Id;
        await using IDbContextTransaction transaction = await context.Database.BeginTransactionAsync(cancellation);
        await context.Database.ExecuteSqlAsync($"SELECT pg_advisory_xact_lock({Lock})", cancellation);
        var due = await context
            .Jobs.Where(job => job.WorkshopId == workshop.Id && job.HandedOverAt < before)
            .Where(job => job.Owner != null || job.Contact != null)
            .OrderBy(job => job.Number)
            .Take(AtOnce)
            .Select(job => new { job.Id, job.Number })
            .ToListAsync(cancellation);
        if (due.Count == 0)
        {
            return 0;
        }

        Erased erased = await OwnerErasure.EraseAsync(context, workshop, [.. due.Select(job => job.Id)], now, cancellation);
        context.AccessEvents.AddRange(
            due.Select(job => new AccessEvent
            {
                WorkshopId = workshop.Id,
                At = now,
                Kind = AccessKinds.OwnerErased,
                Subject = $"{JobSheets.Tag(workshop, job.Number)}, by the workshop’s rule",
            })
        );
        await context.SaveChangesAsync(cancellation);
        await transaction.CommitAsync(cancellation);
        await using RemedosContext every = await contexts.CreateDbContextAsync(cancellation);
        await OwnerErasure.RemoveFilesAsync(every, files, erased.Files, CancellationToken.None);
        return due.Count;
    }
}
