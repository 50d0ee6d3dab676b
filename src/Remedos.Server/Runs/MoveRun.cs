using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Server.Jobs;
using Remedos.Server.Writing;

namespace Remedos.Server.Runs;

/// <summary>The mount that a run was made on, and the version of the run that the page saw.</summary>
public sealed record RunMove(Guid MountId, uint Version);

/// <summary>Says that a run was measured on another mount, of this setup or of another one.</summary>
internal static class MoveRun
{
    public static Task<Results<Ok<JobSheet>, ProblemHttpResult>> HandleAsync(
        Guid id,
        RunMove move,
        RunDoor door,
        CancellationToken cancellation
    ) =>
        door.ChangeAsync(
            id,
            move.Version,
            at =>
            {
                if (JobSetups.OfMount(at.Job, move.MountId) is not var (setup, mount))
                {
                    return Task.FromResult<ProblemHttpResult?>(Refusal.Unknown("This job has no such setup any more. Choose another."));
                }

                if (mount.MountedAt is { } mounted && mounted > at.Run.ImportedAt)
                {
                    return Task.FromResult<ProblemHttpResult?>(
                        Refusal.Of(
                            $"This run was here by {at.Run.ImportedAt:d MMMM yyyy, HH:mm} (UTC), before the cooler of "
                                + $"{JobSetups.Name(setup)} was put on ({mounted:d MMMM yyyy, HH:mm}). Correct the mount’s date, "
                                + "or choose another."
                        )
                    );
                }

                if (at.Run.MountId != mount.Id)
                {
                    at.Event(
                        JobEvents.RunMoved,
                        at.Run.Id.ToString(),
                        JsonSerializer.Serialize(at.Run.MountId),
                        JsonSerializer.Serialize(mount.Id)
                    );
                    at.Run.MountId = mount.Id;
                }

                return Task.FromResult<ProblemHttpResult?>(null);
            },
            cancellation
        );
}
