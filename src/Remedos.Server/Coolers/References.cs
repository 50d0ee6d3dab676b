using Microsoft.Extensions.Caching.Memory;
using Remedos.Core.Airflow;
using Remedos.Core.Diagnosis;
using Remedos.Core.Jobs;
using Remedos.Core.Learning;
using Remedos.Core.Machines;
using Remedos.Core.Parts;
using Remedos.Core.Runs;
using Remedos.Core.SteadyState;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Parts;
using Remedos.Data.Runs;
using Remedos.Server.Jobs;
using Remedos.Server.Parts;
using Remedos.Server.Records;

namespace Remedos.Server.Coolers;

/// <summary>
/// The sound machines that a workshop's runs are held against: made from its parts, with what its bench has learnt of its coolers.
/// </summary>
internal sealed class References
{
    private readonly IReadOnlyList<Part> _parts;
    private readonly IReadOnlyDictionary<string, LeagueEntry> _learnt;
    private readonly Dictionary<(Guid Setup, uint Job), ReferenceMachine?> _made = [];

    private References(IReadOnlyList<Part> parts, IReadOnlyDictionary<string, LeagueEntry> learnt) => (_parts, _learnt) = (parts, learnt);

    public static async Task<References> OfAsync(
        RemedosContext context,
        IMemoryCache remembered,
        Guid workshop,
        CancellationToken cancellation
    )
    {
        ReferenceStand stand = await ReferenceStand.OfAsync(context, workshop, cancellation);
        return new References(
            await PartShelf.OfAsync(context, remembered, workshop, stand, cancellation),
            await LeagueRecords.LearntAsync(context, remembered, workshop, stand, cancellation)
        );
    }

    /// <summary>What the workshop's machines are made of.</summary>
    public IReadOnlyList<Part> Parts => _parts;

    /// <summary>All coolers whose values are known, as this bench has measured them; a retired one only if it is on the machine.</summary>
    /// <param name="current">The cooler that is on the machine at hand.</param>
    public IReadOnlyList<CoolerPart> Coolers(string? current) =>
        [
            .. _parts
                .Where(part =>
                    part.Kind == PartKind.Cooler
                    && part.Values.Cooler is not null
                    && (part.RetiredAt is null || string.Equals(part.Name, current?.Trim(), StringComparison.OrdinalIgnoreCase))
                )
                .Select(part => Learnt(part, part.Values.Cooler!)),
        ];

    private CoolerPart Learnt(Part part, CoolerPart values) =>
        CoolerLeague.Apply(values with { Id = part.Id.ToString(), Name = part.Name }, _learnt.GetValueOrDefault(part.Name));

    /// <summary>
    /// The machine of a setup, its cooler by name where it is among the parts, else by its kind; null while processor's watts or limit or
    /// the cooler are not known.
    /// </summary>
    public ReferenceMachine? Of(Job job, Setup setup)
    {
        if (_made.TryGetValue((setup.Id, job.Version), out ReferenceMachine? known))
        {
            return known;
        }

        SetupDifference effective = JobSetups.Effective(job, setup);
        CoolerPart? cooler =
            Machine.Find(_parts, PartKind.Cooler, effective.Cooler) is { Values.Cooler: { } values } part ? Learnt(part, values)
            : effective.CoolerKind is { } kind ? CoolerPart.OfKind(kind)
            : null;
        Build? build = Machine.BuildOf(MachineNames.Of(job, effective.Cooler), _parts, WhatIf.Nothing, out _);
        return _made[(setup.Id, job.Version)] = build is null ? null : AirPlanner.ReferenceOf(build, cooler);
    }

    /// <summary>A run beside what a sound machine would have shown in it.</summary>
    public SeenRun Seen(Job job, Run run)
    {
        Setup? setup = JobSetups.OfMount(job, run.MountId)?.Setup;
        SetupDifference? effective = setup is null ? null : JobSetups.Effective(job, setup);
        RunConditions conditions = run.Conditions with
        {
            CoolerKind = run.Conditions.CoolerKind ?? effective?.CoolerKind,
            RatedPowerW = run.Conditions.RatedPowerW ?? job.RatedPowerW,
            TemperatureLimitC = run.Conditions.TemperatureLimitC ?? job.TemperatureLimitC,
        };
        return SeenRun.Of(run.Analysis, conditions, setup is null ? null : Of(job, setup));
    }

    /// <summary>A run's heat path held against its own machine.</summary>
    public HeatStaircase? StaircaseOf(Job job, Run run) =>
        Seen(job, run) is var seen ? HeatStaircase.Of(seen.Run, seen.Conditions, seen.Expected) : null;
}
