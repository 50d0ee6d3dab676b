using System.Text.Json;
using System.Text.Json.Serialization;
using Microsoft.AspNetCore.DataProtection.EntityFrameworkCore;
using Microsoft.AspNetCore.Identity.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;
using Remedos.Data.Backups;
using Remedos.Data.Bays;
using Remedos.Data.Jobs;
using Remedos.Data.Parts;
using Remedos.Data.People;
using Remedos.Data.Planning;
using Remedos.Data.Practice;
using Remedos.Data.Queue;
using Remedos.Data.Records;
using Remedos.Data.Runs;
using Remedos.Data.Samples;

namespace Remedos.Data;

/// <summary>
/// The model. Every table's key begins with the workshop's id and every foreign key carries it, so that the database itself refuses a row
/// of one workshop on a
/// row of another, and the same schema can be spread by workshop. Nothing is deleted along with what it hangs on.
/// </summary>
public sealed class RemedosContext(DbContextOptions<RemedosContext> options)
    : IdentityUserContext<Account, Guid>(options),
        IDataProtectionKeyContext
{
    /// <summary>How analyses and conditions are written, in the database and on the wire.</summary>
    public static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        NumberHandling = JsonNumberHandling.AllowNamedFloatingPointLiterals,
    };

    /// <summary>
    /// Whose rows are seen and may be written; null for all, as what works in the background for every workshop needs it.
    /// </summary>
    public Guid? Workshop { get; set; }

    /// <summary>What was saved so far that records follow.</summary>
    public Touched Touched { get; private set; } = new();

    /// <summary>Contexts are lent again and again: the next borrower finds nothing of the one before.</summary>
    public override ValueTask DisposeAsync()
    {
        Forget();
        return base.DisposeAsync();
    }

    /// <inheritdoc cref="DisposeAsync"/>
    public override void Dispose()
    {
        Forget();
        base.Dispose();
    }

    private void Forget() => (Workshop, Touched) = (null, new());

    public DbSet<Workshop> Workshops => Set<Workshop>();

    public DbSet<Person> People => Set<Person>();

    public DbSet<SignIn> SignIns => Set<SignIn>();

    public DbSet<Invitation> Invitations => Set<Invitation>();

    public DbSet<AccessEvent> AccessEvents => Set<AccessEvent>();

    public DbSet<WorkshopEvent> WorkshopEvents => Set<WorkshopEvent>();

    public DbSet<Job> Jobs => Set<Job>();

    public DbSet<Setup> Setups => Set<Setup>();

    public DbSet<Mount> Mounts => Set<Mount>();

    public DbSet<Round> Rounds => Set<Round>();

    public DbSet<Plan> Plans => Set<Plan>();

    public DbSet<ReportLink> ReportLinks => Set<ReportLink>();

    public DbSet<Paper> Papers => Set<Paper>();

    public DbSet<PlanMark> PlanMarks => Set<PlanMark>();

    public DbSet<BenchScatter> BenchScatters => Set<BenchScatter>();

    public DbSet<SeriesShare> SeriesShares => Set<SeriesShare>();

    public DbSet<SeriesTotal> SeriesTotals => Set<SeriesTotal>();

    public DbSet<LeagueShare> LeagueShares => Set<LeagueShare>();

    public DbSet<LeagueTotal> LeagueTotals => Set<LeagueTotal>();

    public DbSet<RepairShare> RepairShares => Set<RepairShare>();

    public DbSet<RepairTotal> RepairTotals => Set<RepairTotal>();

    public DbSet<FittedShare> FittedShares => Set<FittedShare>();

    public DbSet<FittedTotal> FittedTotals => Set<FittedTotal>();

    public DbSet<TrialShare> TrialShares => Set<TrialShare>();

    public DbSet<TrialTotal> TrialTotals => Set<TrialTotal>();

    public DbSet<WorkDay> WorkDays => Set<WorkDay>();

    public DbSet<PracticeTry> PracticeTries => Set<PracticeTry>();

    public DbSet<RecordStand> RecordStands => Set<RecordStand>();

    public DbSet<KeptTag> KeptTags => Set<KeptTag>();

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

    public DbSet<WorkItem> WorkItems => Set<WorkItem>();

    public DbSet<BackupStand> BackupStands => Set<BackupStand>();

    public DbSet<Installation> Installations => Set<Installation>();

    public DbSet<DataProtectionKey> DataProtectionKeys => Set<DataProtectionKey>();

    public override Task<int> SaveChangesAsync(bool acceptAllChangesOnSuccess, CancellationToken cancellationToken = default)
    {
        if (
            Workshop is { } own
            && ChangeTracker
                .Entries<IOfWorkshop>()
                .FirstOrDefault(entry => entry.State != EntityState.Unchanged && entry.Entity.WorkshopId != own)
                is { } foreign
        )
        {
            throw new InvalidOperationException($"A row of {foreign.Metadata.DisplayName()} belongs to another workshop.");
        }

        foreach (Bay bay in ChangeTracker.Entries<Bay>().Where(entry => entry.State == EntityState.Modified).Select(entry => entry.Entity))
        {
            bay.Revision++;
        }

        Touched.Note(ChangeTracker.Entries());
        return base.SaveChangesAsync(acceptAllChangesOnSuccess, cancellationToken);
    }

    protected override void OnModelCreating(ModelBuilder builder)
    {
        base.OnModelCreating(builder);
        builder.HasPostgresExtension("pg_trgm");
        Tables.Configure(builder);
        PeopleTables.Configure(builder);
        builder.Entity<Workshop>().HasQueryFilter(workshop => Workshop == null || workshop.Id == Workshop);
        foreach (IMutableEntityType type in builder.Model.GetEntityTypes().ToList())
        {
            if (typeof(IOfWorkshop).IsAssignableFrom(type.ClrType) && !type.IsOwned())
            {
                typeof(RemedosContext)
                    .GetMethod(nameof(SeeOwnOnly), System.Reflection.BindingFlags.Instance | System.Reflection.BindingFlags.NonPublic)!
                    .MakeGenericMethod(type.ClrType)
                    .Invoke(this, [builder]);
            }

            foreach (IMutableForeignKey key in type.GetForeignKeys().Where(key => !key.IsOwnership))
            {
                key.DeleteBehavior = DeleteBehavior.Restrict;
            }
        }
    }

    /// <summary>
    /// Stands behind the filters that are written by hand: a query that forgets its own still sees no other workshop's rows.
    /// </summary>
    private void SeeOwnOnly<T>(ModelBuilder modelBuilder)
        where T : class, IOfWorkshop => modelBuilder.Entity<T>().HasQueryFilter(row => Workshop == null || row.WorkshopId == Workshop);
}

/// <summary>A row that belongs to one workshop.</summary>
public interface IOfWorkshop
{
    Guid WorkshopId { get; }
}

/// <summary>For `dotnet ef migrations add`; it never connects.</summary>
public sealed class DesignTimeContext : Microsoft.EntityFrameworkCore.Design.IDesignTimeDbContextFactory<RemedosContext>
{
    public RemedosContext CreateDbContext(string[] args) =>
        new(
            new DbContextOptionsBuilder<RemedosContext>().UseNpgsql("Host=127.0.0.1;Database=design").UseSnakeCaseNamingConvention().Options
        );
}
