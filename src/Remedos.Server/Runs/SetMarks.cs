using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Server.Jobs;
using Remedos.Server.Writing;

namespace Remedos.Server.Runs;

/// <summary>All marks of a run, and the version of the run that the page saw.</summary>
public sealed record MarksChange(RunMark[] Marks, uint Version);

/// <summary>Sets what was done or seen during a run.</summary>
internal static class SetMarks
{
    public static Task<Results<Ok<JobSheet>, ProblemHttpResult>> HandleAsync(
        Guid id,
        MarksChange change,
        RunDoor door,
        CancellationToken cancellation
    ) =>
        door.ChangeAsync(
            id,
            change.Version,
            at =>
            {
                if (RunMark.Problem(change.Marks, at.Run.Analysis.DurationSeconds) is { } problem)
                {
                    return Task.FromResult<ProblemHttpResult?>(Refusal.Of(problem));
                }

                RunMark[] marks = [.. change.Marks.Select(mark => mark with { Text = mark.Text.Trim() }).OrderBy(mark => mark.Seconds)];
                at.Event(
                    JobEvents.Marks,
                    at.Run.Id.ToString(),
                    JsonSerializer.Serialize(at.Run.Marks, RemedosContext.Json),
                    JsonSerializer.Serialize(marks, RemedosContext.Json)
                );
                at.Run.Marks = marks;
                return Task.FromResult<ProblemHttpResult?>(null);
            },
            cancellation
        );
}
