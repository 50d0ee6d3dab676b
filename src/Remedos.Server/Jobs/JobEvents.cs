using Remedos.Data;
using Remedos.Data.Jobs;

namespace Remedos.Server.Jobs;

/// <summary>The kinds of event, and how one is appended.</summary>
internal static class JobEvents
{
    public const string Created = "created",
        ReadIn = "read-in",
        Field = "field",
        RunAdded = "run-added",
        RunRemoved = "run-removed",
        RunRestored = "run-restored",
        Conditions = "conditions",
        LoadEdges = "load-edges",
        Marks = "marks",
        RunLeftOut = "run-left-out",
        PhotoAdded = "photo-added",
        PhotoRemoved = "photo-removed",
        PhotoRestored = "photo-restored",
        PhotoKind = "photo-kind",
        Role = "role",
        ImportRole = "import-role",
        SetupAdded = "setup-added",
        MountAdded = "mount-added",
        RunMoved = "run-moved",
        RoundOpened = "round-opened",
        PlanBegun = "plan-begun",
        PlanLaidAside = "plan-laid-aside",
        LinkMade = "link-made",
        LinkWithdrawn = "link-withdrawn",
        PaperMade = "paper-made",
        PaperYes = "paper-yes",
        PaperVoided = "paper-voided",
        Erased = "erased";

    /// <summary>What can be taken back.</summary>
    public static readonly string[] Undoable =
    [
        Field,
        RunAdded,
        RunRemoved,
        RunRestored,
        Conditions,
        LoadEdges,
        Marks,
        RunLeftOut,
        PhotoAdded,
        PhotoRemoved,
        PhotoRestored,
        PhotoKind,
        Role,
        SetupAdded,
        MountAdded,
        RunMoved,
        RoundOpened,
    ];

    public static void Append(
        this RemedosContext context,
        Job job,
        Guid personId,
        DateTimeOffset at,
        string kind,
        string? subject = null,
        string? before = null,
        string? after = null,
        long? undoes = null
    )
    {
        context.JobEvents.Add(
            new JobEvent
            {
                WorkshopId = job.WorkshopId,
                JobId = job.Id,
                PersonId = personId,
                At = at,
                Kind = kind,
                Subject = subject,
                Before = before,
                After = after,
                Undoes = undoes,
            }
        );
        job.ChangedAt = at;
    }
}
