using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Server.Files;
using Remedos.Server.Jobs;

namespace Remedos.Server.Owners;

/// <summary>What was taken off, and what stays by law.</summary>
/// <param name="Files">Of the store, which go once the rows are gone for good.</param>
/// <param name="KeptBills">That name the owner until their time is over.</param>
internal sealed record Erased(int Jobs, int Pictures, int Links, IReadOnlyList<string> Files, IReadOnlyList<Paper> KeptBills);

/// <summary>
/// Takes an owner out of jobs: name and contact, also where events tell of them, proofs of purchase, links to the owner's page with their
/// documents, and names on quotes and on bills that need not be kept any more. Numbers stay: what was measured, found, done and charged.
/// </summary>
internal static class OwnerErasure
{
    private static readonly string[] Fields = ["owner", "contact"];

    /// <summary>Changes the rows; the caller commits, and then removes the files.</summary>
    public static async Task<Erased> EraseAsync(
        RemedosContext context,
        Workshop workshop,
        IReadOnlyCollection<Guid> jobs,
        DateTimeOffset now,
        CancellationToken cancellation
    )
    {
        Guid id = workshop.Id;
        List<JobPhoto> proofs = await context
            .JobPhotos.Where(photo => photo.WorkshopId == id && jobs.Contains(photo.JobId) && photo.Kind == JobPhoto.Proof)
            .ToListAsync(cancellation);
        List<ReportLink> links = await context
            .ReportLinks.Where(link => link.WorkshopId == id && jobs.Contains(link.JobId))
            .ToListAsync(cancellation);
        List<Paper> named =
        [
            .. (await context.Papers.Where(paper => paper.WorkshopId == id && jobs.Contains(paper.JobId)).ToListAsync(cancellation)).Where(
                paper => paper.Statement.Billed is not null
            ),
        ];
        List<Paper> kept = named.FindAll(paper => paper.Kind == Paper.Bill && paper.MadeAt > now.AddYears(-workshop.KeepBillsYears));
        foreach (Paper paper in named.Except(kept))
        {
            context.Entry(paper).Property(one => one.Statement).CurrentValue = paper.Statement with { Billed = null };
        }

        string[] gone = [.. proofs.Select(photo => photo.Id.ToString())];
        context.JobPhotos.RemoveRange(proofs);
        links.ForEach(link => link.WithdrawnAt ??= now);
        await context.SaveChangesAsync(cancellation);
        // Neither told nor taken back any more: that something was changed stays, what it was does not.
        await context
            .JobEvents.Where(e => e.WorkshopId == id && jobs.Contains(e.JobId))
            .Where(e => (e.Kind == JobEvents.Field && Fields.Contains(e.Subject)) || gone.Contains(e.Subject))
            .ExecuteUpdateAsync(
                set =>
                    set.SetProperty(e => e.Kind, JobEvents.Erased)
                        .SetProperty(e => e.Before, (string?)null)
                        .SetProperty(e => e.After, (string?)null),
                cancellation
            );
        int changed = await context
            .Jobs.Where(job => job.WorkshopId == id && jobs.Contains(job.Id))
            .ExecuteUpdateAsync(
                set => set.SetProperty(job => job.Owner, (string?)null).SetProperty(job => job.Contact, (string?)null),
                cancellation
            );
        return new Erased(
            changed,
            proofs.Count,
            links.Count,
            [.. proofs.SelectMany(photo => new[] { photo.Sha256, photo.ThumbnailSha256 }), .. links.Select(link => link.PdfSha256)],
            kept
        );
    }

    /// <summary>Removes files that nothing else is kept by, in any workshop.</summary>
    public static async Task RemoveFilesAsync(
        RemedosContext every,
        IFileStore files,
        IEnumerable<string> hashes,
        CancellationToken cancellation
    )
    {
        foreach (string hash in hashes.Distinct())
        {
            bool used =
                await every.JobPhotos.AnyAsync(one => one.Sha256 == hash || one.ThumbnailSha256 == hash, cancellation)
                || await every.Workshops.AnyAsync(one => one.LogoSha256 == hash, cancellation)
                || await every.LogFiles.AnyAsync(one => one.Sha256 == hash, cancellation)
                || await every.ReportLinks.AnyAsync(one => one.PdfSha256 == hash && one.WithdrawnAt == null, cancellation);
            if (!used)
            {
                await files.RemoveAsync(hash, cancellation);
            }
        }
    }
}
