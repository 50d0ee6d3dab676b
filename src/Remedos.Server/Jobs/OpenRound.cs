using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Core.Comparison;
using Remedos.Core.Diagnosis;
using Remedos.Core.Jobs;
using Remedos.Data.Jobs;
using Remedos.Server.Writing;

namespace Remedos.Server.Jobs;

/// <summary>Why the next round is opened, of <see cref="RoundReason"/>.</summary>
public sealed record NextRound(string Reason);

/// <summary>
/// Opens the next round of a job that its last repair did not end: what was found and done is kept as the round that is over, the sheet
/// asks anew, and what was
/// changed is known to the next diagnosis.
/// </summary>
internal static class OpenRound
{
    public static Task<Results<Ok<JobSheet>, ProblemHttpResult>> HandleAsync(
        Guid id,
        NextRound next,
        JobDoor door,
        CancellationToken cancellation
    ) =>
        door.ChangeAsync(
            id,
            async (write, job) =>
            {
                if (!RoundReason.All.Contains(next.Reason))
                {
                    string known = string.Join(", ", RoundReason.All);
                    return Refusal.Of($"“{next.Reason}” is no reason for another round; known are {known}.");
                }

                if (job.HandedOverAt is not null)
                {
                    return Refusal.Conflict("It has been handed over; take that back first.");
                }

                if (JobSetups.Standing(job).All(setup => setup.Round < job.Round) && job.Round > 1)
                {
                    return Refusal.Conflict($"Round {job.Round} has changed nothing yet.");
                }

                if (JobSetups.Standing(job).Count < 2)
                {
                    return Refusal.Conflict("Nothing has been changed on this machine yet: it is still in its first round.");
                }

                string? verdict = await JobSheets.VerdictAsync(write.Context, job, cancellation) is { Comparable: true } result
                    ? VerdictWords.Of(result).ToString()
                    : null;
                RoundNote note = NoteOf(job);
                Round round = new()
                {
                    Id = Guid.CreateVersion7(write.Now),
                    WorkshopId = job.WorkshopId,
                    JobId = job.Id,
                    Number = job.Round,
                    Reason = next.Reason,
                    Verdict = verdict,
                    Note = note,
                    ClosedAt = write.Now,
                };
                write.Context.Rounds.Add(round);
                Apply(job, Fresh(job, note), job.Round + 1);
                write.Event(job, JobEvents.RoundOpened, round.Id.ToString());
                return null;
            },
            cancellation
        );

    /// <summary>What the round that is on has found and done.</summary>
    public static RoundNote NoteOf(Job job) =>
        new(
            job.Repair.Found,
            job.Repair.Done,
            job.Repair.Parts,
            job.Repair.Minutes,
            job.Repair.Causes,
            job.DecisionRoute,
            job.LastDone,
            job.Observations,
            job.Choice
        );

    /// <summary>What the next round begins with: nothing found yet, what the owner told, and what was done last.</summary>
    public static RoundNote Fresh(Job job, RoundNote last) =>
        new(
            null,
            null,
            null,
            null,
            [],
            null,
            LastDoneOf(job) ?? last.LastDone,
            [.. last.Observations.Where(item => DiagnosisTables.EvidenceOf(item.Id)?.Kind == "symptom")]
        );

    public static void Apply(Job job, RoundNote note, int round)
    {
        (job.Repair.Found, job.Repair.Done, job.Repair.Parts, job.Repair.Minutes) = (note.Found, note.Done, note.Parts, note.Minutes);
        job.Repair.Causes = note.Causes;
        (job.DecisionRoute, job.Choice, job.LastDone, job.Observations, job.Round) = (
            note.DecisionRoute,
            note.Choice,
            note.LastDone,
            note.Observations,
            round
        );
    }

    /// <summary>What was done last, in the words of the diagnosis.</summary>
    internal static string? LastDoneOf(Job job) =>
        JobSetups.Current(job).Kind switch
        {
            SetupKind.Cooler => "cooler-changed",
            SetupKind.Paste or SetupKind.Repair => "repasted",
            _ => null,
        };
}
