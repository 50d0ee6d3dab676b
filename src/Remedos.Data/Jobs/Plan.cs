using Remedos.Core.Repair;

namespace Remedos.Data.Jobs;

/// <summary>A repair's steps as they were composed when it was begun, and how far it is.</summary>
public sealed class Plan : IOfWorkshop
{
    public Guid Id { get; init; }

    public Guid WorkshopId { get; init; }

    public Guid JobId { get; init; }

    /// <summary>Counted in the job from 1.</summary>
    public int Number { get; init; }

    /// <summary>In which round it was begun, from 1.</summary>
    public int Round { get; init; }

    /// <summary>What it was composed from.</summary>
    public required RepairFacts Facts { get; init; }

    /// <summary>It stays as it was composed: what changes on the way does not change it under the hands.</summary>
    public required RepairPlan Composed { get; init; }

    /// <summary>The setup that was on the machine, and its mount.</summary>
    public int FromSetup { get; init; }

    /// <inheritdoc cref="FromSetup"/>
    public int FromMount { get; init; }

    /// <summary>The setup that its steps made; null before.</summary>
    public int? MadeSetup { get; set; }

    public DateTimeOffset BegunAt { get; init; }

    /// <summary>Put aside for another, not deleted.</summary>
    public DateTimeOffset? RemovedAt { get; set; }

    public List<PlanMark> Marks { get; init; } = [];

    /// <summary>The marks that stand, by their step.</summary>
    public IReadOnlyDictionary<string, StepMark> Standing =>
        Marks.Where(mark => mark.Mark is not null).ToDictionary(mark => mark.StepId, mark => mark.Mark!, StringComparer.Ordinal);

    /// <summary>How far it is.</summary>
    public PlanProgress Progress => PlanProgress.Of(Composed, Standing);
}

/// <summary>What was done to a step of a plan.</summary>
public sealed class PlanMark : IOfWorkshop
{
    public Guid WorkshopId { get; init; }

    public Guid PlanId { get; init; }

    public required string StepId { get; init; }

    /// <summary>Null where it was taken back.</summary>
    public StepMark? Mark { get; set; }
}
