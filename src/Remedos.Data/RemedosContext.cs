using System.Text.Json;
using System.Text.Json.Serialization;
using Microsoft.AspNetCore.DataProtection.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using Remedos.Core.Jobs;
using Remedos.Data.Bays;
using Remedos.Data.Jobs;
using Remedos.Data.Parts;
using Remedos.Data.Runs;
using Remedos.Data.Samples;

namespace Remedos.Data;

/// <summary>The model. Every table carries the workshop's id, so that the same schema can be spread by workshop.</summary>
public sealed class RemedosContext(DbContextOptions<RemedosContext> options) : DbContext(options), IDataProtectionKeyContext
{
    /// <summary>How analyses and conditions are written, in the database and on the wire.</summary>
    public static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { NumberHandling = JsonNumberHandling.AllowNamedFloatingPointLiterals };

    public DbSet<Workshop> Workshops => Set<Workshop>();

    public DbSet<Person> People => Set<Person>();

    public DbSet<Job> Jobs => Set<Job>();

    public DbSet<JobEvent> JobEvents => Set<JobEvent>();

    public DbSet<JobPhoto> JobPhotos => Set<JobPhoto>();

    public DbSet<Part> Parts => Set<Part>();

    public DbSet<PartEvent> PartEvents => Set<PartEvent>();

    public DbSet<Run> Runs => Set<Run>();

    public DbSet<LogFile> LogFiles => Set<LogFile>();

    public DbSet<Import> Imports => Set<Import>();

    public DbSet<RememberedRoles> RememberedRoles => Set<RememberedRoles>();

    public DbSet<SampleChunk> SampleChunks => Set<SampleChunk>();

    public DbSet<TimeChunk> TimeChunks => Set<TimeChunk>();

    public DbSet<Bay> Bays => Set<Bay>();

    public DbSet<BayBatch> BayBatches => Set<BayBatch>();

    public DbSet<DataProtectionKey> DataProtectionKeys => Set<DataProtectionKey>();

    protected override void OnModelCreating(ModelBuilder modelBuilder)
    {
        modelBuilder.Entity<Workshop>(workshop =>
        {
            workshop.Property(w => w.Name).HasMaxLength(200);
            workshop.Property(w => w.TagPrefix).HasMaxLength(8);
            workshop.Property(w => w.Currency).HasMaxLength(3);
            workshop.Property(w => w.LabourMinorPerHour).HasDefaultValue(4800L);
            AsJson(workshop.Property(w => w.Weights));
        });
        modelBuilder.Entity<Person>(person =>
        {
            person.Property(p => p.Name).HasMaxLength(200);
            person.HasOne<Workshop>().WithMany().HasForeignKey(p => p.WorkshopId);
        });
        modelBuilder.Entity<Job>(Configure);
        modelBuilder.Entity<JobEvent>(change =>
        {
            change.Property(e => e.Kind).HasMaxLength(40);
            change.Property(e => e.Subject).HasMaxLength(200);
            change.Property(e => e.Before).HasColumnType("jsonb");
            change.Property(e => e.After).HasColumnType("jsonb");
            change.HasOne<Job>().WithMany().HasForeignKey(e => e.JobId);
            change.HasOne<Person>().WithMany().HasForeignKey(e => e.PersonId);
            change.HasIndex(e => new { e.JobId, e.Id });
        });
        modelBuilder.Entity<JobPhoto>(photo =>
        {
            photo.Property(p => p.Kind).HasMaxLength(10);
            photo.ToTable(table => table.HasCheckConstraint("ck_job_photos_kind", $"kind IN ('{JobPhoto.Photo}', '{JobPhoto.Proof}')"));
            photo.Property(p => p.Name).HasMaxLength(255);
            photo.Property(p => p.MediaType).HasMaxLength(40);
            photo.Property(p => p.Sha256).HasMaxLength(64).IsFixedLength();
            photo.HasOne<Job>().WithMany().HasForeignKey(p => p.JobId);
            photo.HasOne<Person>().WithMany().HasForeignKey(p => p.PersonId);
            photo.HasIndex(p => new { p.WorkshopId, p.JobId });
        });
        modelBuilder.Entity<Part>(part =>
        {
            part.Property(p => p.Version).IsRowVersion();
            part.Property(p => p.Kind).HasMaxLength(20);
            part.Property(p => p.Name).HasMaxLength(200);
            AsJson(part.Property(p => p.Values));
            part.HasOne<Workshop>().WithMany().HasForeignKey(p => p.WorkshopId);
            part.HasIndex(p => new { p.WorkshopId, p.Kind, p.Name }).IsUnique();
        });
        modelBuilder.Entity<PartEvent>(change =>
        {
            change.Property(e => e.Kind).HasMaxLength(20);
            change.Property(e => e.Before).HasColumnType("jsonb");
            change.Property(e => e.After).HasColumnType("jsonb");
            change.HasOne<Part>().WithMany().HasForeignKey(e => e.PartId);
            change.HasOne<Person>().WithMany().HasForeignKey(e => e.PersonId);
        });
        modelBuilder.Entity<Run>(run =>
        {
            run.Property(r => r.Version).IsRowVersion();
            run.Property(r => r.Side).HasMaxLength(10);
            run.ToTable(table => table.HasCheckConstraint("ck_runs_side", "side IN ('before', 'after')"));
            AsJson(run.Property(r => r.Conditions));
            AsJson(run.Property(r => r.Analysis));
            AsJson(run.Property(r => r.Stretch));
            AsJson(run.Property(r => r.Marks)).HasDefaultValueSql("'[]'");
            run.HasIndex(r => r.AnalysisVersion);
            run.HasOne<Job>().WithMany().HasForeignKey(r => r.JobId);
            run.HasOne<LogFile>().WithMany().HasForeignKey(r => r.LogFileId);
            run.HasIndex(r => new { r.WorkshopId, r.JobId });
        });
        modelBuilder.Entity<LogFile>(file =>
        {
            file.Property(f => f.Name).HasMaxLength(255);
            file.Property(f => f.Sha256).HasMaxLength(64).IsFixedLength();
            file.HasOne<Workshop>().WithMany().HasForeignKey(f => f.WorkshopId);
            file.HasIndex(f => new { f.WorkshopId, f.Sha256 });
        });
        modelBuilder.Entity<Import>(import =>
        {
            import.Property(i => i.Side).HasMaxLength(10);
            import.Property(i => i.State).HasMaxLength(20);
            import.Property(i => i.ProblemCode).HasMaxLength(40);
            import.ToTable(table => table.HasCheckConstraint("ck_imports_state", "state IN ('queued', 'reading', 'done', 'failed', 'cancelled')"));
            AsJson(import.Property(i => i.Conditions));
            import.HasOne<Job>().WithMany().HasForeignKey(i => i.JobId);
            import.HasOne<LogFile>().WithMany().HasForeignKey(i => i.LogFileId);
            import.HasIndex(i => new { i.State, i.CreatedAt });
            import.HasIndex(i => i.JobId);
        });
        modelBuilder.Entity<RememberedRoles>(roles =>
        {
            roles.HasKey(r => new { r.WorkshopId, r.Fingerprint });
            roles.HasOne<Workshop>().WithMany().HasForeignKey(r => r.WorkshopId);
            roles.Property(r => r.Fingerprint).HasMaxLength(64);
            AsJson(roles.Property(r => r.Roles));
        });
        modelBuilder.Entity<Bay>(bay =>
        {
            bay.Property(b => b.Version).IsRowVersion();
            bay.Property(b => b.Token).HasMaxLength(64);
            bay.Property(b => b.Stream).HasMaxLength(64);
            bay.Property(b => b.Note).HasMaxLength(300);
            AsJson(bay.Property(b => b.Run));
            AsJson(bay.Property(b => b.Sender));
            AsJson(bay.Property(b => b.Hands));
            bay.HasOne<Workshop>().WithMany().HasForeignKey(b => b.WorkshopId);
            bay.HasIndex(b => new { b.WorkshopId, b.Number }).IsUnique();
            // A sender knows its number and its token, and no workshop.
            bay.HasIndex(b => b.Number);
            // The row changes many times a second: room for its next version on the same page keeps the table from growing.
            bay.HasStorageParameter("fillfactor", 30);
        });
        modelBuilder.Entity<BayBatch>(batch =>
        {
            batch.HasKey(b => new { b.WorkshopId, b.BayId, b.Stream, b.FirstSequence });
            batch.Property(b => b.Stream).HasMaxLength(64);
            batch.HasOne<Bay>().WithMany().HasForeignKey(b => b.BayId);
        });
        modelBuilder.Entity<SampleChunk>(chunk =>
        {
            chunk.HasKey(c => new { c.WorkshopId, c.RunId, c.Level, c.Channel, c.Chunk });
            chunk.HasOne<Run>().WithMany().HasForeignKey(c => c.RunId);
        });
        modelBuilder.Entity<TimeChunk>(chunk =>
        {
            chunk.HasKey(c => new { c.WorkshopId, c.RunId, c.Level, c.Chunk });
            chunk.HasOne<Run>().WithMany().HasForeignKey(c => c.RunId);
        });
    }

    private static void Configure(EntityTypeBuilder<Job> job)
    {
        AsJson(job.Property(j => j.Observations)).HasDefaultValueSql("'[]'");
        AsJson(job.Property(j => j.AirPlan));
        job.Property(j => j.DecisionRoute).HasMaxLength(20);
        job.Property(j => j.Origin).HasMaxLength(20);
        job.Property(j => j.LastDone).HasMaxLength(40);
        job.OwnsOne(j => j.Parts, parts => parts.Property(p => p.FansSteeredBy).HasMaxLength(20));
        job.Navigation(j => j.Parts).IsRequired();
        job.OwnsOne(j => j.Warranty, warranty =>
        {
            warranty.Property(w => w.EndedBy).HasMaxLength(20);
            warranty.Property(w => w.Route).HasMaxLength(20);
        });
        job.Navigation(j => j.Warranty).IsRequired();
        // Earlier visits of the same machine, and what a series of coolers came in with.
        job.HasIndex(j => new { j.WorkshopId, j.Serial });
        job.Property(j => j.Setting).HasMaxLength(40);
        job.Property(j => j.Version).IsRowVersion();
        job.HasOne<Workshop>().WithMany().HasForeignKey(j => j.WorkshopId);
        job.HasIndex(j => new { j.WorkshopId, j.Number }).IsUnique();
        job.Property(j => j.CoolerKind).HasMaxLength(40);
        job.Property(j => j.WaitingFor).HasMaxLength(40);
        job.OwnsOne(j => j.Repair, note =>
        {
            note.Property(n => n.CoolerKind).HasMaxLength(40);
            AsJson(note.Property(n => n.Causes)).HasDefaultValueSql("'[]'");
        });
        job.Navigation(j => j.Repair).IsRequired();
        string byHand = string.Join(", ", Waits.ByHand.Select(wait => $"'{wait}'"));
        job.ToTable(table =>
        {
            table.HasCheckConstraint("ck_jobs_waiting_for", $"waiting_for IN ({byHand})");
            table.HasCheckConstraint("ck_jobs_temperature_limit_c", "temperature_limit_c BETWEEN 40 AND 130");
            table.HasCheckConstraint("ck_jobs_rated_power_w", "rated_power_w > 0");
        });
    }

    private static PropertyBuilder<T> AsJson<T>(PropertyBuilder<T> property)
        where T : class? =>
        property.HasColumnType("jsonb").HasConversion(
            value => JsonSerializer.Serialize(value, Json),
            text => JsonSerializer.Deserialize<T>(text, Json)!,
            new Microsoft.EntityFrameworkCore.ChangeTracking.ValueComparer<T>((a, b) => Equals(a, b), value => value == null ? 0 : value.GetHashCode(), value => value));
}

/// <summary>For `dotnet ef migrations add`; it never connects.</summary>
public sealed class DesignTimeContext : Microsoft.EntityFrameworkCore.Design.IDesignTimeDbContextFactory<RemedosContext>
{
    public RemedosContext CreateDbContext(string[] args) =>
        new(new DbContextOptionsBuilder<RemedosContext>().UseNpgsql("Host=127.0.0.1;Database=design").UseSnakeCaseNamingConvention().Options);
}
