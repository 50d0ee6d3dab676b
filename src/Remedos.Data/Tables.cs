using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.ChangeTracking;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using Remedos.Core;
using Remedos.Core.Jobs;
using Remedos.Data.Backups;
using Remedos.Data.Bays;
using Remedos.Data.Jobs;
using Remedos.Data.Parts;
using Remedos.Data.Planning;
using Remedos.Data.Practice;
using Remedos.Data.Queue;
using Remedos.Data.Runs;
using Remedos.Data.Samples;

namespace Remedos.Data;

/// <summary>How rows become tables: keys, checks, indexes.</summary>
internal static class Tables
{
    public static void Configure(ModelBuilder model)
    {
        model.Entity<Installation>(installation => installation.Property(i => i.Id).ValueGeneratedNever());
        model.Entity<Workshop>(Configure);
        model.Entity<WorkshopEvent>(Configure);
        model.Entity<Job>(Configure);
        model.Entity<Setup>(Configure);
        model.Entity<Mount>(Configure);
        model.Entity<Round>(Configure);
        model.Entity<Plan>(Configure);
        model.Entity<PlanMark>(Configure);
        model.Entity<BenchScatter>(scatter =>
        {
            scatter.HasKey(s => new { s.WorkshopId, s.JobId });
            scatter.HasOne<Job>().WithMany().HasForeignKey(s => new { s.WorkshopId, s.JobId });
        });
        Records.RecordTables.Configure(model);
        model.Entity<WorkDay>(day =>
        {
            day.HasKey(d => new { d.WorkshopId, d.Day });
            day.HasOne<Workshop>().WithMany().HasForeignKey(d => d.WorkshopId);
            day.ToTable(table =>
                table.HasCheckConstraint("ck_work_days_hours", "(\"from\" IS NULL) = (\"to\" IS NULL) AND \"from\" < \"to\"")
            );
        });
        model.Entity<PracticeTry>(Configure);
        model.Entity<JobEvent>(Configure);
        model.Entity<JobPhoto>(Configure);
        model.Entity<ReportLink>(Configure);
        model.Entity<Paper>(Configure);
        model.Entity<Part>(Configure);
        model.Entity<PartEvent>(Configure);
        model.Entity<LogFile>(Configure);
        model.Entity<Run>(Configure);
        model.Entity<Import>(Configure);
        model.Entity<RememberedRoles>(Configure);
        model.Entity<Bay>(Configure);
        model.Entity<BayBatch>(Configure);
        model.Entity<WorkItem>(Configure);
        model.Entity<BackupStand>(stand =>
        {
            stand.HasKey(s => s.WorkshopId);
            stand.Property(s => s.FileName).HasMaxLength(255);
            stand.Property(s => s.Problem).HasMaxLength(500);
            stand.HasOne<Workshop>().WithMany().HasForeignKey(s => s.WorkshopId);
        });
        model.Entity<SampleChunk>(chunk =>
        {
            chunk.HasKey(c => new
            {
                c.WorkshopId,
                c.RunId,
                c.Level,
                c.Channel,
                c.Chunk,
            });
            chunk.HasOne<Run>().WithMany().HasForeignKey(c => new { c.WorkshopId, c.RunId });
        });
        model.Entity<TimeChunk>(chunk =>
        {
            chunk.HasKey(c => new
            {
                c.WorkshopId,
                c.RunId,
                c.Level,
                c.Chunk,
            });
            chunk.HasOne<Run>().WithMany().HasForeignKey(c => new { c.WorkshopId, c.RunId });
        });
    }

    private static void Configure(EntityTypeBuilder<Workshop> workshop)
    {
        workshop.Property(w => w.Version).IsRowVersion();
        workshop.Property(w => w.Name).HasMaxLength(200);
        workshop.Property(w => w.TagPrefix).HasMaxLength(8);
        workshop.Property(w => w.Currency).HasMaxLength(3);
        workshop.Property(w => w.TimeZone).HasMaxLength(60);
        workshop.Property(w => w.TemperatureUnit).HasConversion<string>().HasMaxLength(20).HasDefaultValue(TemperatureUnit.Celsius);
        AsJson(workshop.Property(w => w.Weights));
        AsJson(workshop.Property(w => w.Open));
        workshop.Property(w => w.LogoSha256).HasMaxLength(64).IsFixedLength();
        workshop.HasIndex(w => new { w.PracticeOf, w.PracticeFor });
        workshop.ToTable(table => table.HasCheckConstraint("ck_workshops_practice", "(practice_of IS NULL) = (practice_for IS NULL)"));
    }

    private static void Configure(EntityTypeBuilder<PracticeTry> tried)
    {
        tried.HasKey(t => new { t.WorkshopId, t.Id });
        tried.Property(t => t.Version).IsRowVersion();
        AsJson(tried.Property(t => t.Stand));
        AsJson(tried.Property(t => t.Ending));
        AsJson(tried.Property(t => t.Score));
        tried.HasOne<Job>().WithMany().HasForeignKey(t => new { t.WorkshopId, t.JobId });
        tried.HasOne<Bay>().WithMany().HasForeignKey(t => new { t.WorkshopId, t.BayId });
        tried.HasIndex(t => new { t.WorkshopId, t.StartedAt });
        tried.ToTable(table =>
        {
            table.HasCheckConstraint("ck_practice_tries_speed", "speed >= 1 AND speed <= 120");
            table.HasCheckConstraint("ck_practice_tries_ended", "score IS NULL OR ended_at IS NOT NULL");
        });
    }

    private static void Configure(EntityTypeBuilder<WorkshopEvent> change)
    {
        change.HasKey(e => new { e.WorkshopId, e.Id });
        change.Property(e => e.Id).UseIdentityAlwaysColumn();
        change.Property(e => e.Kind).HasMaxLength(40);
        change.Property(e => e.Subject).HasMaxLength(200);
        change.Property(e => e.Before).HasColumnType("jsonb");
        change.Property(e => e.After).HasColumnType("jsonb");
        change.HasIndex(e => new { e.WorkshopId, e.At });
        change.HasOne<Workshop>().WithMany().HasForeignKey(e => e.WorkshopId);
        change.HasOne<Person>().WithMany().HasForeignKey(e => new { e.WorkshopId, e.PersonId });
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
        AsJson(round.Property(r => r.Note));
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
        AsJson(plan.Property(p => p.Facts));
        AsJson(plan.Property(p => p.Composed));
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
        AsJson(mark.Property(m => m.Mark));
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
        AsJson(paper.Property(p => p.Statement));
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

    private static void Configure(EntityTypeBuilder<Part> part)
    {
        part.HasKey(p => new { p.WorkshopId, p.Id });
        part.Property(p => p.Version).IsRowVersion();
        part.Property(p => p.Kind).HasMaxLength(20);
        part.Property(p => p.Name).HasMaxLength(200);
        // Everywhere else names are held against each other without case.
        part.Property<string>("NameKey").HasComputedColumnSql("lower(name)", stored: true);
        AsJson(part.Property(p => p.Values));
        part.HasOne<Workshop>().WithMany().HasForeignKey(p => p.WorkshopId);
        part.HasIndex("WorkshopId", "Kind", "NameKey").IsUnique();
    }

    private static void Configure(EntityTypeBuilder<PartEvent> change)
    {
        change.HasKey(e => new { e.WorkshopId, e.Id });
        change.Property(e => e.Id).UseIdentityAlwaysColumn();
        change.Property(e => e.Kind).HasMaxLength(20);
        change.Property(e => e.Before).HasColumnType("jsonb");
        change.Property(e => e.After).HasColumnType("jsonb");
        change.HasIndex(e => new { e.WorkshopId, e.At });
        change.HasOne<Part>().WithMany().HasForeignKey(e => new { e.WorkshopId, e.PartId });
        change.HasOne<Person>().WithMany().HasForeignKey(e => new { e.WorkshopId, e.PersonId });
    }

    private static void Configure(EntityTypeBuilder<LogFile> file)
    {
        file.HasKey(f => new { f.WorkshopId, f.Id });
        file.Property(f => f.Name).HasMaxLength(255);
        file.Property(f => f.Sha256).HasMaxLength(64).IsFixedLength();
        file.HasOne<Workshop>().WithMany().HasForeignKey(f => f.WorkshopId);
        file.HasIndex(f => new { f.WorkshopId, f.Sha256 });
    }

    private static void Configure(EntityTypeBuilder<Run> run)
    {
        run.HasKey(r => new { r.WorkshopId, r.Id });
        run.Property(r => r.Version).IsRowVersion();
        AsJson(run.Property(r => r.Conditions));
        AsJson(run.Property(r => r.Analysis));
        AsJson(run.Property(r => r.Stretch));
        AsJson(run.Property(r => r.Marks)).HasDefaultValueSql("'[]'");
        run.HasOne<Job>().WithMany().HasForeignKey(r => new { r.WorkshopId, r.JobId });
        run.HasOne<Mount>().WithMany().HasForeignKey(r => new { r.WorkshopId, r.MountId });
        run.HasOne<LogFile>().WithMany().HasForeignKey(r => new { r.WorkshopId, r.LogFileId });
        run.HasIndex(r => r.AnalysisVersion);
        run.HasIndex(r => r.WorkshopId).HasFilter("missing_original").HasDatabaseName("ix_runs_missing_original");
    }

    private static void Configure(EntityTypeBuilder<Import> import)
    {
        import.HasKey(i => new { i.WorkshopId, i.Id });
        import.Property(i => i.State).HasMaxLength(20);
        import.Property(i => i.ProblemCode).HasMaxLength(40);
        import.Property(i => i.Sha256).HasMaxLength(64).IsFixedLength();
        import.ToTable(table =>
            table.HasCheckConstraint("ck_imports_state", "state IN ('queued', 'reading', 'done', 'failed', 'cancelled')")
        );
        AsJson(import.Property(i => i.Conditions));
        AsJson(import.Property(i => i.Marks)).HasDefaultValueSql("'[]'");
        import.HasOne<Job>().WithMany().HasForeignKey(i => new { i.WorkshopId, i.JobId });
        import.HasOne<Mount>().WithMany().HasForeignKey(i => new { i.WorkshopId, i.MountId });
        import.HasOne<LogFile>().WithMany().HasForeignKey(i => new { i.WorkshopId, i.LogFileId });
        import.HasOne<Person>().WithMany().HasForeignKey(i => new { i.WorkshopId, i.PersonId });
        // One log is on its way to a job once.
        import
            .HasIndex(i => new
            {
                i.WorkshopId,
                i.JobId,
                i.Sha256,
            })
            .IsUnique()
            .HasFilter("state IN ('queued', 'reading')");
        import.HasIndex(i => new
        {
            i.WorkshopId,
            i.JobId,
            i.State,
        });
    }

    private static void Configure(EntityTypeBuilder<RememberedRoles> roles)
    {
        roles.HasKey(r => new { r.WorkshopId, r.Fingerprint });
        roles.HasOne<Workshop>().WithMany().HasForeignKey(r => r.WorkshopId);
        roles.Property(r => r.Fingerprint).HasMaxLength(64);
        AsJson(roles.Property(r => r.Roles));
    }

    private static void Configure(EntityTypeBuilder<Bay> bay)
    {
        bay.HasKey(b => new { b.WorkshopId, b.Id });
        bay.Property(b => b.Version).IsRowVersion();
        bay.Property(b => b.TokenSha256).HasMaxLength(64).IsFixedLength();
        bay.Property(b => b.Stream).HasMaxLength(64);
        bay.Property(b => b.Note).HasMaxLength(300);
        AsJson(bay.Property(b => b.Run));
        AsJson(bay.Property(b => b.Sender));
        AsJson(bay.Property(b => b.Hands));
        bay.HasOne<Workshop>().WithMany().HasForeignKey(b => b.WorkshopId);
        bay.HasIndex(b => new { b.WorkshopId, b.Number }).IsUnique();
        // A sender knows its token, and no workshop.
        bay.HasIndex(b => new { b.TokenSha256, b.WorkshopId }).IsUnique();
        // The row changes many times a second: room for its next version on the same page keeps the table from growing.
        bay.HasStorageParameter("fillfactor", 30);
    }

    private static void Configure(EntityTypeBuilder<BayBatch> batch)
    {
        batch.HasKey(b => new
        {
            b.WorkshopId,
            b.BayId,
            b.Recording,
            b.FirstSequence,
        });
        batch.HasOne<Bay>().WithMany().HasForeignKey(b => new { b.WorkshopId, b.BayId });
    }

    private static void Configure(EntityTypeBuilder<WorkItem> item)
    {
        item.HasKey(i => new { i.WorkshopId, i.Id });
        item.Property(i => i.Kind).HasMaxLength(20);
        item.Property(i => i.Payload).HasColumnType("jsonb");
        item.HasOne<Workshop>().WithMany().HasForeignKey(i => i.WorkshopId);
        // The same thing waits once.
        item.HasIndex(i => new
            {
                i.WorkshopId,
                i.Kind,
                i.SubjectId,
            })
            .IsUnique();
        item.HasIndex(i => new { i.Urgency, i.NotBefore }).HasFilter("set_aside_at IS NULL");
    }

    private static void Configure(EntityTypeBuilder<Job> job)
    {
        job.HasKey(j => new { j.WorkshopId, j.Id });
        AsJson(job.Property(j => j.Observations)).HasDefaultValueSql("'[]'");
        AsJson(job.Property(j => j.AirPlan));
        job.Property(j => j.DecisionRoute).HasMaxLength(20);
        job.Property(j => j.Origin).HasMaxLength(20);
        job.Property(j => j.Wish).HasMaxLength(20);
        job.Property(j => j.LastDone).HasMaxLength(40);
        job.OwnsOne(j => j.Parts, parts => parts.Property(p => p.FansSteeredBy).HasMaxLength(20));
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
        AsJson(job.Property(j => j.Choice));
        job.Property(j => j.CoolerKind).HasMaxLength(40);
        job.Property(j => j.WaitingFor).HasMaxLength(40);
        job.OwnsOne(
            j => j.Repair,
            note =>
            {
                AsJson(note.Property(n => n.Causes)).HasDefaultValueSql("'[]'");
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

    /// <summary>What is kept as JSON is immutable: another value is another object, compared by what it would be written as.</summary>
    internal static PropertyBuilder<T> AsJson<T>(PropertyBuilder<T> property)
        where T : class? =>
        property
            .HasColumnType("jsonb")
            .HasConversion(
                value => Written(value),
                text => JsonSerializer.Deserialize<T>(text, RemedosContext.Json)!,
                new ValueComparer<T>(
                    (a, b) => ReferenceEquals(a, b) || Written(a!) == Written(b!),
                    value => value == null ? 0 : Written(value).GetHashCode(StringComparison.Ordinal),
                    value => value
                )
            );

    private static string Written<T>(T value) => JsonSerializer.Serialize(value, RemedosContext.Json);
}
