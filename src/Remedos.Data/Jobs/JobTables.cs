using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using Remedos.Core;
using Remedos.Core.Jobs;

namespace Remedos.Data.Jobs;

/// <summary>How a job, and all that hangs on it, becomes tables.</summary>
internal static class JobTables
{
    public static void Configure(ModelBuilder model)
    {
        model.Entity<Job>(Configure);
        model.Entity<Setup>(Configure);
        model.Entity<Mount>(Configure);
        model.Entity<Round>(Configure);
        model.Entity<Plan>(Configure);
        model.Entity<PlanMark>(Configure);
        model.Entity<JobEvent>(Configure);
        model.Entity<JobPhoto>(Configure);
        model.Entity<ReportLink>(Configure);
        model.Entity<Paper>(Configure);
        model.Entity<BenchScatter>(scatter =>
        {
            scatter.HasKey(s => new { s.WorkshopId, s.JobId });
            scatter.HasOne<Job>().WithMany().HasForeignKey(s => new { s.WorkshopId, s.JobId });
        });
    }

    private static void Configure(EntityTypeBuilder<Job> job)
    {
        job.HasKey(j => new { j.WorkshopId, j.Id });
        Tables.AsJson(job.Property(j => j.Observations)).HasDefaultValueSql("'[]'");
        Tables.AsJson(job.Property(j => j.AirPlan));
        job.Property(j => j.DecisionRoute).HasMaxLength(20);
        job.Property(j => j.Origin).HasMaxLength(20);
        job.Property(j => j.Wish).HasMaxLength(20);
        job.Property(j => j.LastDone).HasMaxLength(40);
        job.OwnsOne(
            j => j.Parts,
            parts =>
            {
                parts.Property(p => p.FansSteeredBy).HasMaxLength(20);
                parts.Property(p => p.RadiatorAt).HasMaxLength(20);
            }
        );
        job.Navigation(j => j.Parts).IsRequired();
        job.OwnsOne(j => j.Measured);
        job.Navigation(j => j.Measured).IsRequired();
        job.OwnsOne(
            j => j.Warranty,
            warranty =>
            {
                warranty.Property(w => w.EndedBy).HasMaxLength(20);
                warranty.Property(w => w.Route).HasMaxLength(20);
            }
        );
        job.Navigation(j => j.Warranty).IsRequired();
        // The lists: machines in the workshop, and those that left, the latest first.
        string[] latest = [nameof(Job.WorkshopId), nameof(Job.ChangedAt), nameof(Job.Id)];
        job.HasIndex(latest, "ix_jobs_open").HasFilter("handed_over_at IS NULL");
        job.HasIndex(latest, "ix_jobs_left").HasFilter("handed_over_at IS NOT NULL");
        job.HasIndex(j => new { j.WorkshopId, j.RecheckOn }).HasFilter("recheck_on IS NOT NULL");
        job.Property(j => j.Found)
            .HasComputedColumnSql(
                """
                lower(coalesce(owner, '') || ' ' || coalesce(machine, '') || ' ' || coalesce(serial, '') || ' ' || coalesce(noticed, '')
                    || ' ' || coalesce(contact, '') || ' #' || lpad(number::text, greatest(4, length(number::text)), '0'))
                """,
                stored: true
            );
        // By its threes of letters. A workshop's id beside them would be in every row, and cost more than it keeps out.
        job.HasIndex(j => j.Found).HasMethod("gin").HasOperators("gin_trgm_ops");
        // Earlier visits of the same machine, and of the same owner.
        job.Property(j => j.SerialKey).HasComputedColumnSql("lower(btrim(serial))", stored: true);
        job.Property(j => j.OwnerKey).HasComputedColumnSql("lower(btrim(owner))", stored: true);
        job.HasIndex(j => new
        {
            j.WorkshopId,
            j.SerialKey,
            j.Number,
        });
        job.HasIndex(j => new
        {
            j.WorkshopId,
            j.OwnerKey,
            j.Number,
        });
        job.Property(j => j.Setting).HasMaxLength(40);
        job.Property(j => j.Version).IsRowVersion();
        job.HasOne<Workshop>().WithMany().HasForeignKey(j => j.WorkshopId);
        job.HasIndex(j => new { j.WorkshopId, j.Number }).IsUnique();
        Tables.AsJson(job.Property(j => j.Choice));
        job.Property(j => j.CoolerKind).HasMaxLength(40);
        job.Property(j => j.WaitingFor).HasMaxLength(40);
        job.OwnsOne(
            j => j.Repair,
            note =>
            {
                Tables.AsJson(note.Property(n => n.Causes)).HasDefaultValueSql("'[]'");
            }
        );
        job.Navigation(j => j.Repair).IsRequired();
        string byHand = string.Join(", ", Waits.ByHand.Select(wait => $"'{Kebab.Of(wait)}'"));
        job.ToTable(table =>
        {
            table.HasCheckConstraint("ck_jobs_waiting_for", $"waiting_for IN ({byHand})");
            table.HasCheckConstraint("ck_jobs_temperature_limit_c", "temperature_limit_c BETWEEN 40 AND 130");
            table.HasCheckConstraint("ck_jobs_rated_power_w", "rated_power_w > 0");
        });
    }

    private static void Configure(EntityTypeBuilder<Setup> setup)
    {
        setup.HasKey(s => new { s.WorkshopId, s.Id });
        setup.Property(s => s.Kind).HasMaxLength(20);
        setup.OwnsOne(s => s.Difference, difference => difference.Property(d => d.CoolerKind).HasMaxLength(40));
        setup.Navigation(s => s.Difference).IsRequired();
        setup.HasOne<Job>().WithMany(job => job.Setups).HasForeignKey(s => new { s.WorkshopId, s.JobId });
        setup
            .HasIndex(s => new
            {
                s.WorkshopId,
                s.JobId,
                s.Number,
            })
            .IsUnique();
        string kinds = string.Join(", ", SetupKind.All.Select(kind => $"'{kind}'"));
        setup.ToTable(table =>
        {
            table.HasCheckConstraint("ck_setups_kind", $"kind IN ({kinds})");
            table.HasCheckConstraint("ck_setups_number", "number >= 1 AND round >= 1 AND like_number < number");
        });
    }

    private static void Configure(EntityTypeBuilder<Mount> mount)
    {
        mount.HasKey(m => new { m.WorkshopId, m.Id });
        mount.Property(m => m.Print).HasMaxLength(20);
        mount.HasOne<Setup>().WithMany(setup => setup.Mounts).HasForeignKey(m => new { m.WorkshopId, m.SetupId });
        mount.HasOne<Job>().WithMany().HasForeignKey(m => new { m.WorkshopId, m.JobId });
        mount
            .HasIndex(m => new
            {
                m.WorkshopId,
                m.SetupId,
                m.Number,
            })
            .IsUnique();
    }

    private static void Configure(EntityTypeBuilder<Round> round)
    {
        round.HasKey(r => new { r.WorkshopId, r.Id });
        round.Property(r => r.Reason).HasMaxLength(20);
        Tables.AsJson(round.Property(r => r.Note));
        round.HasOne<Job>().WithMany(job => job.Rounds).HasForeignKey(r => new { r.WorkshopId, r.JobId });
        round
            .HasIndex(r => new
            {
                r.WorkshopId,
                r.JobId,
                r.Number,
            })
            .IsUnique()
            .HasFilter("removed_at IS NULL");
    }

    private static void Configure(EntityTypeBuilder<Plan> plan)
    {
        plan.HasKey(p => new { p.WorkshopId, p.Id });
        plan.Ignore(p => p.Standing);
        plan.Ignore(p => p.Progress);
        Tables.AsJson(plan.Property(p => p.Facts));
        Tables.AsJson(plan.Property(p => p.Composed));
        plan.HasOne<Job>().WithMany(job => job.Plans).HasForeignKey(p => new { p.WorkshopId, p.JobId });
        plan.HasIndex(p => new
            {
                p.WorkshopId,
                p.JobId,
                p.Number,
            })
            .IsUnique();
        plan.ToTable(table => table.HasCheckConstraint("ck_plans_number", "number >= 1 AND round >= 1"));
    }

    private static void Configure(EntityTypeBuilder<PlanMark> mark)
    {
        mark.HasKey(m => new
        {
            m.WorkshopId,
            m.PlanId,
            m.StepId,
        });
        mark.Property(m => m.StepId).HasMaxLength(40);
        Tables.AsJson(mark.Property(m => m.Mark));
        mark.HasOne<Plan>().WithMany(plan => plan.Marks).HasForeignKey(m => new { m.WorkshopId, m.PlanId });
    }

    private static void Configure(EntityTypeBuilder<JobEvent> change)
    {
        change.HasKey(e => new { e.WorkshopId, e.Id });
        change.Property(e => e.Id).UseIdentityAlwaysColumn();
        change.Property(e => e.Kind).HasMaxLength(40);
        change.Property(e => e.Subject).HasMaxLength(200);
        change.Property(e => e.Before).HasColumnType("jsonb");
        change.Property(e => e.After).HasColumnType("jsonb");
        change.HasIndex(e => new { e.WorkshopId, e.At });
        change.HasOne<Job>().WithMany().HasForeignKey(e => new { e.WorkshopId, e.JobId });
        change.HasOne<Person>().WithMany().HasForeignKey(e => new { e.WorkshopId, e.PersonId });
        change.HasIndex(e => new
        {
            e.WorkshopId,
            e.JobId,
            e.Id,
        });
        change.HasIndex(e => new
        {
            e.WorkshopId,
            e.JobId,
            e.Undoes,
        });
    }

    private static void Configure(EntityTypeBuilder<JobPhoto> photo)
    {
        photo.HasKey(p => new { p.WorkshopId, p.Id });
        photo.Property(p => p.Kind).HasMaxLength(10);
        photo.ToTable(table => table.HasCheckConstraint("ck_job_photos_kind", $"kind IN ('{JobPhoto.Photo}', '{JobPhoto.Proof}')"));
        photo.Property(p => p.Name).HasMaxLength(255);
        photo.Property(p => p.MediaType).HasMaxLength(40);
        photo.Property(p => p.GivenSha256).HasMaxLength(64).IsFixedLength();
        photo.Property(p => p.Sha256).HasMaxLength(64).IsFixedLength();
        photo.Property(p => p.ThumbnailSha256).HasMaxLength(64).IsFixedLength();
        photo.HasOne<Job>().WithMany().HasForeignKey(p => new { p.WorkshopId, p.JobId });
        photo.HasOne<Person>().WithMany().HasForeignKey(p => new { p.WorkshopId, p.PersonId });
        // A picture is on a job once.
        photo
            .HasIndex(p => new
            {
                p.WorkshopId,
                p.JobId,
                p.GivenSha256,
            })
            .IsUnique();
    }

    private static void Configure(EntityTypeBuilder<ReportLink> link)
    {
        link.HasKey(l => new { l.WorkshopId, l.Id });
        link.Property(l => l.TokenSha256).HasMaxLength(64).IsFixedLength();
        link.Property(l => l.PdfSha256).HasMaxLength(64).IsFixedLength();
        link.HasOne<Job>().WithMany().HasForeignKey(l => new { l.WorkshopId, l.JobId });
        link.HasOne<Person>().WithMany().HasForeignKey(l => new { l.WorkshopId, l.PersonId });
        link.HasIndex(l => l.TokenSha256);
    }

    private static void Configure(EntityTypeBuilder<Paper> paper)
    {
        paper.HasKey(p => new { p.WorkshopId, p.Id });
        paper.Property(p => p.Kind).HasMaxLength(10);
        Tables.AsJson(paper.Property(p => p.Statement));
        paper.Property(p => p.YesBy).HasMaxLength(40);
        paper.Property(p => p.Version).IsRowVersion();
        paper.HasOne<Job>().WithMany().HasForeignKey(p => new { p.WorkshopId, p.JobId });
        paper.HasOne<Person>().WithMany().HasForeignKey(p => new { p.WorkshopId, p.PersonId });
        paper.Property(p => p.From).HasMaxLength(200);
        // A number stands on one paper of its kind; other workshops count for themselves.
        paper
            .HasIndex(p => new
            {
                p.WorkshopId,
                p.Kind,
                p.Number,
            })
            .IsUnique()
            .HasFilter("\"from\" IS NULL");
        paper.ToTable(table => table.HasCheckConstraint("ck_papers_kind", $"kind IN ('{Paper.Quote}', '{Paper.Bill}') AND number >= 1"));
    }
}
