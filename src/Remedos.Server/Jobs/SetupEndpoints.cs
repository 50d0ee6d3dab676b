using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Core.Jobs;
using Remedos.Data.Jobs;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Jobs;

/// <summary>A setup to be made, as a difference to another.</summary>
/// <param name="Kind">What is changed, of <see cref="SetupKind"/>.</param>
/// <param name="Like">The setup that it is like but for that; the one that is on now where it is null.</param>
/// <param name="Values">What is known of the difference already, by the fields of a setup.</param>
/// <param name="MountedAt">When its cooler was put on; null when that is not known.</param>
public sealed record NewSetup(
    string Kind,
    int? Like = null,
    IReadOnlyDictionary<string, JsonElement>? Values = null,
    DateTimeOffset? MountedAt = null
);

/// <summary>The cooler is put on once more.</summary>
/// <param name="MountedAt">When; null when that is not known.</param>
public sealed record NewMount(DateTimeOffset? MountedAt = null);

/// <summary>Makes setups and mounts; their fields are saved like any field of the job.</summary>
internal static class SetupEndpoints
{
    private const int MostSetups = 60,
        MostMounts = 30;

    public static void MapSetups(this RouteGroupBuilder jobs)
    {
        jobs.MapPost("/{id:guid}/setups", AddSetupAsync).WithName("addSetup").ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        jobs.MapPost("/{id:guid}/setups/{number:int}/mounts", AddMountAsync)
            .WithName("addMount")
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        jobs.MapPost("/{id:guid}/rounds", OpenRound.HandleAsync)
            .WithName("openRound")
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static async Task<Results<Ok<JobSheet>, ProblemHttpResult>> AddSetupAsync(
        Guid id,
        NewSetup asked,
        JobDoor door,
        Caller caller,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        return await door.ChangeAsync(
            id,
            (write, job) =>
            {
                if (asked.Kind == SetupKind.AsItCame || !SetupKind.All.Contains(asked.Kind))
                {
                    return Refusal.Of($"“{asked.Kind}” is no change of a machine; known are {string.Join(", ", SetupKind.All[1..])}.");
                }

                IReadOnlyList<Setup> standing = JobSetups.Standing(job);
                Setup? like = asked.Like is { } number ? standing.FirstOrDefault(setup => setup.Number == number) : JobSetups.Current(job);
                if (like is null)
                {
                    return Refusal.Unknown($"This job has no setup {asked.Like}.");
                }

                if (job.Setups.Count >= MostSetups)
                {
                    return Refusal.Of($"A job holds up to {MostSetups} setups.");
                }

                if (asked.MountedAt > write.Now.AddDays(1))
                {
                    return Refusal.Of("A cooler cannot have been put on in the future.");
                }

                // A plug or a setting leaves the cooler sitting as it sat.
                DateTimeOffset? mountedAt = SetupKind.Lifts.Contains(asked.Kind)
                    ? asked.MountedAt?.ToUniversalTime()
                    : JobSetups.Standing(like)[^1].MountedAt;
                Setup setup = JobSetups.Add(job, asked.Kind, like.Number, mountedAt, write.Now);
                foreach ((string field, JsonElement value) in asked.Values ?? new Dictionary<string, JsonElement>())
                {
                    if (JobFields.Find($"setup.{setup.Number}.{field}") is not { } known)
                    {
                        return Refusal.Of($"A setup has no field “{field}”.");
                    }

                    if (known.TrySet(job, value, who.Today(write.Now)) is { } sentence)
                    {
                        return Refusal.Of(sentence, field);
                    }
                }

                // What was chosen is what goes on, where nothing else is said.
                setup.Difference.Cooler ??= asked.Kind == SetupKind.Cooler && asked.Like is null ? job.Repair.Cooler : null;
                write.Event(job, JobEvents.SetupAdded, setup.Id.ToString());
                return null;
            },
            cancellation
        );
    }

    /// <summary>The cooler was lifted and put back.</summary>
    private static Task<Results<Ok<JobSheet>, ProblemHttpResult>> AddMountAsync(
        Guid id,
        int number,
        NewMount asked,
        JobDoor door,
        CancellationToken cancellation
    ) =>
        door.ChangeAsync(
            id,
            (write, job) =>
            {
                if (JobSetups.Standing(job).FirstOrDefault(setup => setup.Number == number) is not { } setup)
                {
                    return Refusal.Unknown($"This job has no setup {number}.");
                }

                if (setup.Mounts.Count >= MostMounts)
                {
                    return Refusal.Of($"A setup holds up to {MostMounts} mounts.");
                }

                if (asked.MountedAt > write.Now.AddDays(1))
                {
                    return Refusal.Of("A cooler cannot have been put on in the future.");
                }

                Mount mount = JobSetups.AddMount(setup, asked.MountedAt?.ToUniversalTime(), write.Now);
                write.Event(job, JobEvents.MountAdded, mount.Id.ToString());
                return null;
            },
            cancellation
        );
}
