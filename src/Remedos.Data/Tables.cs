using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.ChangeTracking;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using Remedos.Core;
using Remedos.Data.Backups;
using Remedos.Data.Bays;
using Remedos.Data.Jobs;
using Remedos.Data.Parts;
using Remedos.Data.Planning;
using Remedos.Data.Practice;
using Remedos.Data.Queue;
using Remedos.Data.Records;
using Remedos.Data.Runs;

namespace Remedos.Data;

/// <summary>How rows become tables: keys, checks, indexes.</summary>
internal static class Tables
{
    public static void Configure(ModelBuilder model)
    {
        model.Entity<Installation>(installation => installation.Property(i => i.Id).ValueGeneratedNever());
        model.Entity<Workshop>(Configure);
        model.Entity<WorkshopEvent>(Configure);
        JobTables.Configure(model);
        RecordTables.Configure(model);
        model.Entity<WorkDay>(day =>
        {
            day.HasKey(d => new { d.WorkshopId, d.Day });
            day.HasOne<Workshop>().WithMany().HasForeignKey(d => d.WorkshopId);
            day.ToTable(table =>
                table.HasCheckConstraint("ck_work_days_hours", "(\"from\" IS NULL) = (\"to\" IS NULL) AND \"from\" < \"to\"")
            );
        });
        model.Entity<PracticeTry>(Configure);
        model.Entity<Part>(Configure);
        model.Entity<PartEvent>(Configure);
        RunTables.Configure(model);
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
