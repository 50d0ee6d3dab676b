using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Bays;
using Remedos.Data.Jobs;
using Remedos.Data.Parts;
using Remedos.Data.Runs;
using Remedos.Server.Jobs;

namespace Remedos.Server.Writing;

/// <summary>One change in hand: its transaction, whose it is and when. What it finds to change is locked until the end.</summary>
internal sealed class Write(RemedosContext context, Guid workshopId, Guid personId, DateTimeOffset now, CancellationToken cancellation)
{
    private readonly List<Action> _once = [];

    public RemedosContext Context => context;

    public Guid WorkshopId => workshopId;

    public Guid PersonId => personId;

    public DateTimeOffset Now => now;

    public CancellationToken Cancellation => cancellation;

    /// <summary>Done once it is committed: bells, live news.</summary>
    public void Once(Action told) => _once.Add(told);

    internal void Tell() => _once.ForEach(told => told());

    public async Task<Workshop> WorkshopAsync() =>
        (
            await context
                .Workshops.FromSql($"SELECT *, xmin FROM workshops WHERE id = {workshopId} FOR UPDATE")
                .IgnoreQueryFilters()
                .ToListAsync(cancellation)
        ).Single();

    /// <summary>A job with its setups, mounts and plans, which its lock guards as well.</summary>
    public Task<Job?> JobAsync(Guid id) => context.LockedAsync(workshopId, id, cancellation);

    /// <summary>A run of a job that is locked already.</summary>
    public async Task<Run?> RunAsync(Job job, Guid id) =>
        (
            await context
                .Runs.FromSql($"SELECT *, xmin FROM runs WHERE workshop_id = {workshopId} AND id = {id} AND job_id = {job.Id} FOR UPDATE")
                .IgnoreQueryFilters()
                .ToListAsync(cancellation)
        ).SingleOrDefault();

    /// <summary>A run with its job, which is locked first.</summary>
    public async Task<(Job Job, Run Run)?> RunAsync(Guid id)
    {
        Guid? jobId = await context
            .Runs.Where(run => run.WorkshopId == workshopId && run.Id == id)
            .Select(run => (Guid?)run.JobId)
            .SingleOrDefaultAsync(cancellation);
        return jobId is not null && await JobAsync(jobId.Value) is { } job && await RunAsync(job, id) is { } run ? (job, run) : null;
    }

    public async Task<Bay?> BayAsync(Guid id) =>
        (
            await context
                .Bays.FromSql($"SELECT *, xmin FROM bays WHERE workshop_id = {workshopId} AND id = {id} FOR UPDATE")
                .IgnoreQueryFilters()
                .ToListAsync(cancellation)
        ).SingleOrDefault();

    /// <summary>Several bays, locked in one order, so that two changes that want the same take turns.</summary>
    public async Task<IReadOnlyList<Bay>> BaysAsync(Guid[] ids) =>
        await context
            .Bays.FromSql($"SELECT *, xmin FROM bays WHERE workshop_id = {workshopId} AND id = ANY ({ids}) ORDER BY id FOR UPDATE")
            .IgnoreQueryFilters()
            .ToListAsync(cancellation);

    public async Task<Part?> PartAsync(Guid id) =>
        (
            await context
                .Parts.FromSql($"SELECT *, xmin FROM parts WHERE workshop_id = {workshopId} AND id = {id} FOR UPDATE")
                .IgnoreQueryFilters()
                .ToListAsync(cancellation)
        ).SingleOrDefault();

    /// <summary>Writes down a change of a job.</summary>
    public void Event(Job job, string kind, string? subject = null, string? before = null, string? after = null, long? undoes = null) =>
        context.Append(job, personId, now, kind, subject, before, after, undoes);

    /// <summary>Writes down a change of the workshop itself.</summary>
    public void Event(string kind, string? subject = null, string? before = null, string? after = null) =>
        context.WorkshopEvents.Add(
            new WorkshopEvent
            {
                WorkshopId = workshopId,
                PersonId = personId,
                At = now,
                Kind = kind,
                Subject = subject,
                Before = before,
                After = after,
            }
        );
}
