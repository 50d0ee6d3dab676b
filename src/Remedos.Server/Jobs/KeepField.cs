using Remedos.Data.Jobs;
using Remedos.Server.Writing;

namespace Remedos.Server.Jobs;

/// <summary>Sets a field that follows from another change, and writes it down as one.</summary>
internal static class KeepField
{
    /// <summary>Sets it; nothing happens where it holds that already, or the job does not have it any more.</summary>
    public static void Keep(this Write write, Job job, string field, object? value)
    {
        JobField known = JobFields.Find(field)!;
        if (!known.Exists(job))
        {
            return;
        }

        string before = known.Json(job);
        known.Set(job, value);
        string after = known.Json(job);
        if (after != before)
        {
            write.Event(job, JobEvents.Field, field, before, after);
        }
    }
}
