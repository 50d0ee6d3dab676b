using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Logs;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Runs;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Jobs;

/// <summary>
/// Takes a change back, or puts back what was taken back, from the event log, unless something newer stands on it. It is an event like any
/// other that names the
/// change: a change that an odd number of events name is taken back.
/// </summary>
internal static class UndoChange
{
    /// <summary>A change to be turned: what stands now if nothing newer does, and what shall stand.</summary>
    private sealed record Turn(Write Write, Job Job, JobEvent Change, bool Back)
    {
        public RemedosContext Context => Write.Context;

        public string Now => (Back ? Change.After : Change.Before)!;

        public string Then => (Back ? Change.Before : Change.After)!;

        public Guid SubjectId => Guid.Parse(Change.Subject!.Split('/')[0]);

        /// <summary>Writes the turn down.</summary>
        public bool Done(string kind, string? now = null, string? then = null)
        {
            Write.Event(Job, kind, Change.Subject, now, then, Change.Id);
            return true;
        }
    }

    public static async Task<Results<Ok<JobSheet>, ProblemHttpResult>> HandleAsync(
        Guid id,
        long eventId,
        JobDoor door,
        Caller caller,
        RunReader reader,
        CancellationToken cancellation
    )
    {
        JobEvent? change;
        bool back;
        RunReading? reading = null;
        await using (RemedosContext context = await caller.OpenAsync(cancellation))
        {
            Guid workshop = context.Workshop!.Value;
            change = await context
                .JobEvents.AsNoTracking()
                .SingleOrDefaultAsync(e => e.WorkshopId == workshop && e.Id == eventId && e.JobId == id && e.Undoes == null, cancellation);
            if (change is null || !JobEvents.Undoable.Contains(change.Kind))
            {
                return Refusal.None("change that could be taken back");
            }

            back = await TimesTurnedAsync(context, change, cancellation) % 2 == 0;
            if (change.Kind is JobEvents.Conditions or JobEvents.LoadEdges or JobEvents.Role)
            {
                reading = await ReadAnewAsync(context, change, back, reader, cancellation);
            }
        }

        return await door.ChangeAsync(
            id,
            async (write, job) =>
            {
                // Who turned it in the same moment was first.
                bool can =
                    await TimesTurnedAsync(write.Context, change, cancellation) % 2 == (back ? 0 : 1)
                    && await TurnAsync(new Turn(write, job, change, back), reader, reading);
                return can ? null : Refusal.Conflict("This cannot be taken back: it has been changed again since.");
            },
            cancellation
        );
    }

    private static Task<int> TimesTurnedAsync(RemedosContext context, JobEvent change, CancellationToken cancellation) =>
        context.JobEvents.CountAsync(
            e => e.WorkshopId == change.WorkshopId && e.JobId == change.JobId && e.Undoes == change.Id,
            cancellation
        );

    /// <summary>The run's original as it will read then, before any row is locked.</summary>
    private static async Task<RunReading?> ReadAnewAsync(
        RemedosContext context,
        JobEvent change,
        bool back,
        RunReader reader,
        CancellationToken cancellation
    )
    {
        string[] subject = change.Subject!.Split('/');
        string then = (back ? change.Before : change.After)!;
        Guid id = Guid.Parse(subject[0]);
        Run? run = await context
            .Runs.AsNoTracking()
            .SingleOrDefaultAsync(r => r.WorkshopId == change.WorkshopId && r.Id == id && r.JobId == change.JobId, cancellation);
        return run is null ? null
            : change.Kind == JobEvents.Role
                ? await reader.AnalyzeAsync(context, run, run.Conditions, (ColumnOf(change), RoleOf(Of<string>(then))), cancellation)
            : await reader.AnalyzeAsync(context, run, Of<RunConditions>(then), null, cancellation);
    }

    private static int ColumnOf(JobEvent change) =>
        int.Parse(change.Subject!.Split('/')[1], System.Globalization.CultureInfo.InvariantCulture);

    private static ChannelRole RoleOf(string role) => ChannelRoles.TryParse(role, out ChannelRole known) ? known : ChannelRole.Other;

    private static async Task<bool> TurnAsync(Turn turn, RunReader reader, RunReading? reading) =>
        turn.Change.Kind switch
        {
            JobEvents.Field => TurnField(turn),
            JobEvents.SetupAdded or JobEvents.MountAdded => await TurnAddedAsync(turn),
            JobEvents.RunMoved => await TurnMoveAsync(turn),
            JobEvents.RoundOpened => await TurnRoundAsync(turn),
            JobEvents.RunAdded or JobEvents.RunRestored => await SetRunRemovedAsync(turn, removed: turn.Back),
            JobEvents.RunRemoved => await SetRunRemovedAsync(turn, removed: !turn.Back),
            JobEvents.Conditions or JobEvents.LoadEdges => await TurnConditionsAsync(turn, reading),
            JobEvents.Marks => await TurnMarksAsync(turn),
            JobEvents.RunLeftOut => await TurnLeftOutAsync(turn),
            JobEvents.PhotoAdded or JobEvents.PhotoRestored => await SetPhotoRemovedAsync(turn, removed: turn.Back),
            JobEvents.PhotoRemoved => await SetPhotoRemovedAsync(turn, removed: !turn.Back),
            JobEvents.PhotoKind => await TurnPhotoKindAsync(turn),
            _ => await TurnRoleAsync(turn, reader, reading),
        };

    private static bool TurnField(Turn turn)
    {
        JobField field = JobFields.Find(turn.Change.Subject!)!;
        // jsonb may write the same value in other words (1 and 1.0): compare what the field makes of it.
        if (!field.Exists(turn.Job) || field.Json(turn.Job) != field.Canonical(turn.Now))
        {
            return false;
        }

        field.Restore(turn.Job, turn.Then);
        return turn.Done(JobEvents.Field, turn.Now, turn.Then);
    }

    /// <summary>A setup or a mount that is still empty can be taken away again.</summary>
    private static async Task<bool> TurnAddedAsync(Turn turn)
    {
        Setup? setup = turn.Job.Setups.Find(one => one.Id == turn.SubjectId);
        Mount? mount = turn.Job.Setups.SelectMany(one => one.Mounts).FirstOrDefault(one => one.Id == turn.SubjectId);
        Guid[] mounts =
            setup is not null ? [.. setup.Mounts.Select(one => one.Id)]
            : mount is null ? []
            : [mount.Id];
        if (mounts.Length == 0 || (setup is null ? mount!.RemovedAt : setup.RemovedAt) is not null != !turn.Back)
        {
            return false;
        }

        bool used =
            await turn.Context.Runs.AnyAsync(
                run => run.WorkshopId == turn.Job.WorkshopId && mounts.Contains(run.MountId) && run.RemovedAt == null,
                turn.Write.Cancellation
            )
            || await turn.Context.Imports.AnyAsync(
                import =>
                    import.WorkshopId == turn.Job.WorkshopId
                    && mounts.Contains(import.MountId)
                    && (import.State == Import.Queued || import.State == Import.Reading),
                turn.Write.Cancellation
            );
        if (turn.Back && (used || turn.Job.Setups.Exists(one => one.RemovedAt is null && one.LikeNumber == setup?.Number)))
        {
            return false;
        }

        DateTimeOffset? at = turn.Back ? turn.Write.Now : null;
        if (setup is not null)
        {
            setup.RemovedAt = at;
        }
        else
        {
            mount!.RemovedAt = at;
        }

        return turn.Done(turn.Change.Kind);
    }

    private static async Task<bool> TurnMoveAsync(Turn turn)
    {
        Run? run = await turn.Write.RunAsync(turn.Job, turn.SubjectId);
        Guid there = Of<Guid>(turn.Then);
        if (run is null || run.MountId != Of<Guid>(turn.Now) || JobSetups.OfMount(turn.Job, there) is null)
        {
            return false;
        }

        run.MountId = there;
        return turn.Done(JobEvents.RunMoved, turn.Now, turn.Then);
    }

    private static async Task<bool> TurnRoundAsync(Turn turn)
    {
        Round? round = await turn.Context.Rounds.SingleOrDefaultAsync(
            one => one.WorkshopId == turn.Job.WorkshopId && one.Id == turn.SubjectId && one.JobId == turn.Job.Id,
            turn.Write.Cancellation
        );
        if (round is null || round.RemovedAt is not null != !turn.Back)
        {
            return false;
        }

        // Only the round that was opened last, and before anything was made or found in it.
        bool last = turn.Job.Round == (turn.Back ? round.Number + 1 : round.Number);
        if (
            !last
            || (
                turn.Back
                && (
                    turn.Job.Setups.Exists(setup => setup.RemovedAt is null && setup.Round > round.Number)
                    || OpenRound.NoteOf(turn.Job) is not { Found: null, Done: null }
                )
            )
        )
        {
            return false;
        }

        round.RemovedAt = turn.Back ? turn.Write.Now : null;
        OpenRound.Apply(
            turn.Job,
            turn.Back ? round.Note : OpenRound.Fresh(turn.Job, round.Note),
            turn.Back ? round.Number : round.Number + 1
        );
        return turn.Done(JobEvents.RoundOpened);
    }

    private static async Task<bool> TurnConditionsAsync(Turn turn, RunReading? reading)
    {
        Run? run = await turn.Write.RunAsync(turn.Job, turn.SubjectId);
        if (run is null || run.Version != reading?.Version || run.Conditions != Of<RunConditions>(turn.Now))
        {
            return false;
        }

        run.Conditions = Of<RunConditions>(turn.Then);
        await reading.ApplyAsync(turn.Context, run, samplesToo: false, turn.Write.Cancellation);
        return turn.Done(turn.Change.Kind, turn.Now, turn.Then);
    }

    private static async Task<bool> TurnLeftOutAsync(Turn turn)
    {
        Run? run = await turn.Write.RunAsync(turn.Job, turn.SubjectId);
        if (run is null || run.LeftOut != Of<string?>(turn.Now))
        {
            return false;
        }

        run.LeftOut = Of<string?>(turn.Then);
        return turn.Done(JobEvents.RunLeftOut, turn.Now, turn.Then);
    }

    private static async Task<bool> TurnMarksAsync(Turn turn)
    {
        Run? run = await turn.Write.RunAsync(turn.Job, turn.SubjectId);
        if (run is null || !run.Marks.SequenceEqual(Of<RunMark[]>(turn.Now)))
        {
            return false;
        }

        run.Marks = Of<RunMark[]>(turn.Then);
        return turn.Done(JobEvents.Marks, turn.Now, turn.Then);
    }

    private static async Task<bool> TurnRoleAsync(Turn turn, RunReader reader, RunReading? reading)
    {
        int column = ColumnOf(turn.Change);
        Run? run = await turn.Write.RunAsync(turn.Job, turn.SubjectId);
        if (
            run is null
            || run.Version != reading?.Version
            || run.Analysis.Channels.SingleOrDefault(c => c.Column == column)?.Role != Of<string>(turn.Now)
        )
        {
            return false;
        }

        await ColumnRoles.ApplyAsync(turn.Write, reader, run, reading, column, Of<string>(turn.Then));
        return turn.Done(JobEvents.Role, turn.Now, turn.Then);
    }

    private static async Task<bool> TurnPhotoKindAsync(Turn turn)
    {
        JobPhoto? photo = await PhotoAsync(turn);
        if (photo is not { RemovedAt: null } || photo.Kind != Of<string>(turn.Now))
        {
            return false;
        }

        photo.Kind = Of<string>(turn.Then);
        return turn.Done(JobEvents.PhotoKind, turn.Now, turn.Then);
    }

    private static async Task<bool> SetPhotoRemovedAsync(Turn turn, bool removed)
    {
        JobPhoto? photo = await PhotoAsync(turn);
        if (photo is null || photo.RemovedAt is not null == removed)
        {
            return false;
        }

        photo.RemovedAt = removed ? turn.Write.Now : null;
        return turn.Done(removed ? JobEvents.PhotoRemoved : JobEvents.PhotoRestored);
    }

    private static async Task<bool> SetRunRemovedAsync(Turn turn, bool removed)
    {
        Run? run = await turn.Write.RunAsync(turn.Job, turn.SubjectId);
        if (run is null || run.RemovedAt is not null == removed)
        {
            return false;
        }

        // The same log may have been added again meanwhile; it is on a job once.
        if (
            !removed
            && await AddLog.SetupOfLogAsync(turn.Context, turn.Job, await Sha256Async(), but: run.LogFileId, turn.Write.Cancellation)
                is not null
        )
        {
            return false;
        }

        run.RemovedAt = removed ? turn.Write.Now : null;
        return turn.Done(removed ? JobEvents.RunRemoved : JobEvents.RunRestored);

        Task<string> Sha256Async() => RunReader.Sha256Async(turn.Context, run.WorkshopId, run.LogFileId, turn.Write.Cancellation);
    }

    private static Task<JobPhoto?> PhotoAsync(Turn turn) =>
        turn.Context.JobPhotos.SingleOrDefaultAsync(
            p => p.WorkshopId == turn.Job.WorkshopId && p.Id == turn.SubjectId && p.JobId == turn.Job.Id,
            turn.Write.Cancellation
        );

    private static T Of<T>(string json) => JsonSerializer.Deserialize<T>(json, RemedosContext.Json)!;
}
