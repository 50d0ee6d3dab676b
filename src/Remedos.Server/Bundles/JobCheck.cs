using System.Text.Json;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Jobs;

namespace Remedos.Server.Bundles;

/// <summary>What the forms would have refused of a job that somebody gave as a file.</summary>
internal static class JobCheck
{
    /// <summary>The first thing that cannot be, as the end of a sentence; null when all is well.</summary>
    public static string? Problem(JobRecord record, Manifest manifest) =>
        Problems(record, manifest).FirstOrDefault() is { } problem ? $"cannot be read in: {problem}" : null;

    private static IEnumerable<string> Problems(JobRecord record, Manifest manifest)
    {
        Job job = record.Job;
        if (JobSetups.Standing(job).Count == 0 || JobSetups.Standing(job).Any(setup => JobSetups.Standing(setup).Count == 0))
        {
            yield return "a job has a setup at least, and every setup a mount.";
        }

        if (record.Ids().GroupBy(id => id).FirstOrDefault(same => same.Count() > 1) is { } twice)
        {
            yield return $"two of its rows have the id {twice.Key}.";
        }

        HashSet<int> numbers = [.. job.Setups.Select(setup => setup.Number)];
        if (job.Setups.Find(setup => setup.LikeNumber is { } like && !numbers.Contains(like)) is { } unlike)
        {
            yield return $"setup {unlike.Number} is like a setup that is not in it.";
        }

        if (job.Plans.Find(plan => !numbers.Contains(plan.FromSetup)) is { } plan)
        {
            yield return $"plan {plan.Number} begins from a setup that is not in it.";
        }

        HashSet<Guid> mounts = [.. record.Mounts().Select(mount => mount.Id)],
            logs = [.. record.Logs.Select(log => log.Id)],
            runs = [.. record.Runs.Select(run => run.Id)],
            people = [.. record.People.Select(person => person.Id)];
        if (
            record.Runs.Any(run => !mounts.Contains(run.MountId) || !logs.Contains(run.LogFileId))
            || record.Imports.Any(import => !mounts.Contains(import.MountId) || !logs.Contains(import.LogFileId))
            || record.Imports.Any(import => import.RunId is { } run && !runs.Contains(run))
        )
        {
            yield return "a run points at a mount or a log that is not in it.";
        }

        if (record.Named().Any(person => !people.Contains(person)))
        {
            yield return "somebody who did something is not among its people.";
        }

        HashSet<long> changes = [.. record.Events.Select(change => change.Number)];
        if (changes.Count < record.Events.Count || record.Events.Any(change => change.Undoes is { } other && !changes.Contains(other)))
        {
            yield return "its changes are not counted.";
        }

        HashSet<string> given = [.. manifest.Files.Select(file => file.Sha256), .. manifest.Missing];
        if (record.Files().FirstOrDefault(file => !given.Contains(file)) is { } absent)
        {
            yield return $"the file {absent[..Math.Min(12, absent.Length)]}… is neither in it nor told as missing.";
        }

        foreach (string problem in Fields(job).Concat(record.Runs.SelectMany(Conditions)))
        {
            yield return problem;
        }
    }

    /// <summary>Every field of the job, its setups and its mounts, by the table that the forms go by.</summary>
    private static IEnumerable<string> Fields(Job job) =>
        JobFields
            .Of(job)
            .Select(field =>
            {
                try
                {
                    field.Read(JsonSerializer.SerializeToElement(field.Get(job), RemedosContext.Json), DateOnly.MaxValue);
                    return null;
                }
                catch (FieldException wrong)
                {
                    return $"{field.Name}: {wrong.Message}";
                }
            })
            .OfType<string>();

    private static IEnumerable<string> Conditions(Run run) =>
        run.Conditions.Problems().Select(problem => $"conditions of a run, {problem.Key}: {problem.Value}");
}
