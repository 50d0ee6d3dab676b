using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Data;
using Remedos.Server.Jobs;
using Remedos.Server.Writing;

namespace Remedos.Server.Runs;

/// <summary>Why a run teaches the records nothing, and the version of the run that the page saw.</summary>
/// <param name="Reason">Null to have it count again.</param>
public sealed record LeftOutChange(string? Reason, uint Version);

/// <summary>Leaves a run out of what the workshop learns; on its own job it stays what it is.</summary>
internal static class LeaveOut
{
    private const int Longest = 200;

    public static Task<Results<Ok<JobSheet>, ProblemHttpResult>> HandleAsync(
        Guid id,
        LeftOutChange change,
        RunDoor door,
        CancellationToken cancellation
    ) =>
        door.ChangeAsync(
            id,
            change.Version,
            at =>
            {
                string? reason = change.Reason?.Trim();
                if (reason is { Length: 0 or > Longest })
                {
                    return Task.FromResult<ProblemHttpResult?>(
                        Refusal.Of($"A run is left out for a reason of 1 to {Longest} letters.", "reason")
                    );
                }

                if (reason != at.Run.LeftOut)
                {
                    at.Event(
                        JobEvents.RunLeftOut,
                        at.Run.Id.ToString(),
                        JsonSerializer.Serialize(at.Run.LeftOut, RemedosContext.Json),
                        JsonSerializer.Serialize(reason, RemedosContext.Json)
                    );
                    at.Run.LeftOut = reason;
                }

                return Task.FromResult<ProblemHttpResult?>(null);
            },
            cancellation
        );
}
