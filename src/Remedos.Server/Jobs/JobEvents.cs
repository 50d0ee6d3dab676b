using Remedos.Data;
using Remedos.Data.Jobs;

namespace Remedos.Server.Jobs;

/// <summary>The kinds of event, and how one is appended.</summary>
internal static class JobEvents
{
    public const string Created = "created", Field = "field", RunAdded = "run-added", RunRemoved = "run-removed", RunRestored = "run-restored", Conditions = "conditions";

    public static void Append(this RemedosContext context, Job job, Guid personId, DateTimeOffset at, string kind, string? subject = null, string? before = null, string? after = null)
    {
        context.JobEvents.Add(new JobEvent { WorkshopId = job.WorkshopId, JobId = job.Id, PersonId = personId, At = at, Kind = kind, Subject = subject, Before = before, After = after });
        job.ChangedAt = at;
    }
}
