using Microsoft.EntityFrameworkCore;
using Remedos.Core.Bays;
using Remedos.Core.Practice;
using Remedos.Data;
using Remedos.Data.Bays;
using Remedos.Data.Practice;
using Remedos.Server.Writing;

namespace Remedos.Server.Practice;

/// <summary>The case that is worked in a practice workshop, and what is done to its machine.</summary>
internal static class PracticeTries
{
    /// <summary>A case of a try; the same one that it was begun with.</summary>
    public static PracticeCase CaseOf(PracticeTry tried) => PracticeCase.Draw(PracticeLevel.Of(tried.Level)!, tried.Seed);

    /// <summary>The newest of a workshop; null before the first.</summary>
    public static Task<PracticeTry?> NewestAsync(RemedosContext context, Guid workshop, CancellationToken cancellation) =>
        context
            .PracticeTries.AsNoTracking()
            .Where(one => one.WorkshopId == workshop)
            .OrderByDescending(one => one.StartedAt)
            .FirstOrDefaultAsync(cancellation);

    /// <summary>The one that is worked, held until the end of the change; null for none.</summary>
    public static async Task<PracticeTry?> OpenAsync(Write write) =>
        (
            await write
                .Context.PracticeTries.FromSql(
                    $"SELECT *, xmin FROM practice_tries WHERE workshop_id = {write.WorkshopId} AND ended_at IS NULL FOR UPDATE"
                )
                .IgnoreQueryFilters()
                .ToListAsync(write.Cancellation)
        ).MaxBy(one => one.StartedAt);

    /// <summary>
    /// Whether the sheet of a job keeps what it thinks to itself: its case is worked without advice, and not ended.
    /// </summary>
    public static async Task<bool> IsAloneAsync(RemedosContext context, Workshop workshop, Guid job, CancellationToken cancellation) =>
        workshop.PracticeOf is not null
        && await context.PracticeTries.AnyAsync(
            one => one.WorkshopId == workshop.Id && one.JobId == job && one.Alone && one.EndedAt == null,
            cancellation
        );

    /// <summary>What hands or a new run in a practice bay have cost is written down with the change itself.</summary>
    /// <param name="hands">As they were before.</param>
    /// <param name="run">The run that there was before.</param>
    public static async Task FollowAsync(Write write, Bay bay, BenchHands? hands, BayRun? run)
    {
        bool begun =
            bay.Run is { State.IsOver: false } now
            && (run is null || run.FromSequence != now.FromSequence || run.Recording != now.Recording);
        if ((!begun && bay.Hands == hands) || await OpenAsync(write) is not { } tried || tried.BayId != bay.Id)
        {
            return;
        }

        if (bay.Hands is { } after && after != hands)
        {
            tried.Stand = tried.Stand.Handled(CaseOf(tried), hands, after);
        }

        if (begun)
        {
            tried.Stand = tried.Stand.Ran(bay.Run!.Variant);
        }
    }
}
