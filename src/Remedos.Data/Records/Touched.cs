using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.ChangeTracking;
using Remedos.Core.Jobs;
using Remedos.Core.Machines;
using Remedos.Data.Jobs;
using Remedos.Data.Parts;
using Remedos.Data.Runs;

namespace Remedos.Data.Records;

/// <summary>What a change has touched that the records are made of.</summary>
public sealed class Touched
{
    private readonly HashSet<Guid> _jobs = [],
        _rows = [],
        _machines = [],
        _repairs = [];
    private readonly HashSet<string> _parts = new(StringComparer.OrdinalIgnoreCase);

    /// <summary>Jobs of which anything changed.</summary>
    public IReadOnlySet<Guid> Jobs => _jobs;

    /// <summary>Those of them of which a run, a setup, a part or a figure changed.</summary>
    public IReadOnlySet<Guid> Machines => _machines;

    /// <summary>Jobs of which it changed what was done, or that they were handed over.</summary>
    public IReadOnlySet<Guid> Repairs => _repairs;

    /// <summary>Whether something of a job has changed while its own row stayed as it was: a run that is read anew.</summary>
    public bool IsQuiet => !_machines.IsSubsetOf(_rows);

    /// <summary>Parts by their names, the old and the new.</summary>
    public IReadOnlyCollection<string> Parts => _parts;

    /// <summary>Whether the workshop's own settings changed, or somebody's name.</summary>
    public bool Settings { get; private set; }

    internal void Note(IEnumerable<EntityEntry> all)
    {
        EntityEntry[] entries = [.. all];
        // What a setup differs by is a row's part of its own.
        HashSet<object?> differing =
        [
            .. entries
                .Where(entry => entry is { State: EntityState.Added or EntityState.Modified, Entity: SetupDifference })
                .Select(entry => KeyOf(entry)),
        ];
        _machines.UnionWith(
            entries.Select(entry => entry.Entity).OfType<Setup>().Where(setup => differing.Contains(setup.Id)).Select(setup => setup.JobId)
        );
        foreach (EntityEntry entry in entries.Where(entry => entry.State is EntityState.Added or EntityState.Modified))
        {
            switch (entry.Entity)
            {
                case Job job:
                    _jobs.Add(job.Id);
                    _rows.Add(job.Id);
                    if (entry.State == EntityState.Added || Figures.Any(name => entry.Property(name).IsModified))
                    {
                        _machines.Add(job.Id);
                    }

                    if (entry.State == EntityState.Added || Repaired.Any(name => entry.Property(name).IsModified))
                    {
                        _repairs.Add(job.Id);
                    }

                    break;
                case RepairNote:
                    _repairs.Add((Guid)KeyOf(entry)!);
                    break;
                case Plan plan:
                    _repairs.Add(plan.JobId);
                    break;
                case PlanMark mark:
                    _repairs.UnionWith(
                        entries.Select(one => one.Entity).OfType<Plan>().Where(one => one.Id == mark.PlanId).Select(one => one.JobId)
                    );
                    break;
                case Round round:
                    _repairs.Add(round.JobId);
                    break;
                case MachineParts or Measured:
                    _machines.Add((Guid)KeyOf(entry)!);
                    break;
                case Setup setup:
                    _machines.Add(setup.JobId);
                    break;
                case Mount mount:
                    _machines.Add(mount.JobId);
                    break;
                case Run run:
                    _machines.Add(run.JobId);
                    break;
                case Part part:
                    _parts.Add(part.Name.Trim());
                    if (entry.State == EntityState.Modified)
                    {
                        _parts.Add(((string)entry.Property(nameof(Part.Name)).OriginalValue!).Trim());
                    }

                    break;
                case Workshop or Person:
                    Settings = true;
                    break;
                default:
                    break;
            }
        }

        _jobs.UnionWith(_machines);
        _jobs.UnionWith(_repairs);
    }

    /// <summary>The id behind the workshop's in its key.</summary>
    private static object? KeyOf(EntityEntry entry) => entry.Property(entry.Metadata.FindPrimaryKey()!.Properties[^1].Name).CurrentValue;

    private static readonly string[] Repaired = [nameof(Job.HandedOverAt), nameof(Job.Round)];

    private static readonly string[] Figures =
    [
        nameof(Job.RatedPowerW),
        nameof(Job.TemperatureLimitC),
        nameof(Job.RoomC),
        nameof(Job.CoolerKind),
    ];
}
