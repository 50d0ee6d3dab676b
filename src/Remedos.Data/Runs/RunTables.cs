using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using Remedos.Data.Jobs;
using Remedos.Data.Samples;

namespace Remedos.Data.Runs;

/// <summary>How logs, runs, imports and samples become tables.</summary>
internal static class RunTables
{
    public static void Configure(ModelBuilder model)
    {
        model.Entity<LogFile>(Configure);
        model.Entity<Run>(Configure);
        model.Entity<Import>(Configure);
        model.Entity<RememberedRoles>(Configure);
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
        Tables.AsJson(run.Property(r => r.Conditions));
        Tables.AsJson(run.Property(r => r.Analysis));
        Tables.AsJson(run.Property(r => r.Stretch));
        Tables.AsJson(run.Property(r => r.Marks)).HasDefaultValueSql("'[]'");
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
        Tables.AsJson(import.Property(i => i.Conditions));
        Tables.AsJson(import.Property(i => i.Marks)).HasDefaultValueSql("'[]'");
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
        Tables.AsJson(roles.Property(r => r.Roles));
    }
}
