using Remedos.Core;
using Remedos.Core.Airflow;
using Remedos.Core.Diagnosis;
using Remedos.Core.Jobs;
using Remedos.Core.Machines;
using Remedos.Core.Matching;
using Remedos.Core.Money;
using Remedos.Core.Parts;
using Remedos.Core.Repair;
using Remedos.Data.Jobs;
using Remedos.Data.Parts;
using Remedos.Data.Runs;
using Remedos.Server.Coolers;
using Remedos.Server.Diagnosis;
using Remedos.Server.Jobs;

namespace Remedos.Server.Repair;

/// <summary>What is asked to be planned.</summary>
/// <param name="Acts">Ids of repairs; null for what the diagnosis and the owner's choice come to.</param>
/// <param name="LiquidMetal">Whether liquid metal goes on instead of paste.</param>
/// <param name="NoBoot">Whether it cannot be switched on, so that no run comes before.</param>
public sealed record PlanAsked(IReadOnlyList<string>? Acts = null, bool LiquidMetal = false, bool NoBoot = false);

/// <summary>Puts together what a plan hangs on, from a job, its parts and its runs.</summary>
internal static class RepairFactsOf
{
    /// <summary>What the owner chose; null while nobody has.</summary>
    public static DecisionRoute? RouteOf(Job job) => job.DecisionRoute is { } word ? Kebab.Parse<DecisionRoute>(word) : null;

    /// <summary>What the owner chose, else what the diagnosis leads to; none where neither says.</summary>
    public static string[] Proposed(Job job, DiagnosisStand? stand) =>
        job switch
        {
            { Choice.Act: { } act } => [act],
            _ => ByRoute(job, stand),
        };

    private static string[] ByRoute(Job job, DiagnosisStand? stand) =>
        RouteOf(job) switch
        {
            DecisionRoute.Cooler => [RepairRow.Upgrade],
            DecisionRoute.Cap => ["cap-power"],
            DecisionRoute.Leave => [],
            _ when job.Repair.Causes.Count > 0 =>
            [
                .. job.Repair.Causes.Select(cause => DiagnosisTables.CauseOf(cause).Repair).Distinct(StringComparer.Ordinal),
            ],
            _ => stand is { Lead: { } lead, Certainty: not null } ? [lead.Repair] : [],
        };

    /// <summary>What is proposed and was not begun, with what it takes; null where nothing is.</summary>
    public static ProposedRepair? Ahead(Job job, DiagnosisStand? stand, IReadOnlyList<Part> parts, Warranty warranty, DateOnly today)
    {
        string[] acts = Proposed(job, stand);
        if (acts.Length == 0)
        {
            return null;
        }

        string? off = JobSetups.Now(job).CoolerKind;
        CoolerPart? on = Machine.Find(parts, PartKind.Cooler, job.Repair.Cooler)?.Values.Cooler;
        string? kind = on?.Kind ?? off;
        RepairPlan plan = RepairPlanner.Of(
            MachineOf(
                Machine.Find(parts, PartKind.Processor, job.Parts.Processor)?.Values.Processor,
                Machine.Find(parts, PartKind.Board, job.Parts.Board)?.Values.Board,
                Machine.Find(parts, PartKind.Case, job.Parts.Case)?.Values.Case,
                off,
                warranty,
                today
            ) with
            {
                Acts = acts,
                CoolerOn = acts.Any(RepairRow.IsAnotherCooler)
                    ? NewCooler.OfKind(kind ?? RepairPlanner.UsualKind) with
                    {
                        Name = job.Repair.Cooler ?? "another cooler",
                    }
                    : null,
            }
        );
        return new ProposedRepair(plan.Title, plan.Minutes, acts.Any(act => RepairRow.Of(act).Opening == CauseRow.Cooler));
    }

    /// <summary>The facts, for acts that are known.</summary>
    public static RepairFacts Of(
        Job job,
        PlanAsked asked,
        IReadOnlyList<string> acts,
        IReadOnlyList<Part> parts,
        IReadOnlyList<CoolerPart> coolers,
        IReadOnlyList<Run> runs,
        Warranty warranty,
        DateOnly today
    )
    {
        MachineNames names = MachineNames.Of(job);
        Build? build = Machine.BuildOf(names, parts, WhatIf.Nothing, out _);
        CasePart? housing = build?.Case ?? Machine.Find(parts, PartKind.Case, names.Case)?.Values.Case;
        BoardPart? board = build?.Board ?? Machine.Find(parts, PartKind.Board, names.Board)?.Values.Board;
        ProcessorPart? chip = Machine.Find(parts, PartKind.Processor, names.Processor)?.Values.Processor;
        Setup standing = JobSetups.Current(job);
        bool swaps = acts.Any(RepairRow.IsAnotherCooler);
        string? off = JobSetups.Now(job).CoolerKind;
        CoolerPart? chosen = swaps ? Named(job.Repair.Cooler, coolers) : null;
        CoolerPart? after =
            swaps ? chosen
            : build is null ? null
            : Machine.CoolerOf(build, coolers) ?? (off is null ? null : CoolerPart.OfKind(off));
        AirPlan? plan = build is null || after is null ? null : AirPlanner.Start(build, after);
        AirPlan? kept = job.AirPlan;
        FitResult? fit = build is null || after is null ? null : Fit.Of(build, after);
        IReadOnlyList<Run> own = JobSetups.RunsOf(standing, runs);
        return MachineOf(build?.Processor ?? chip, board, housing, off, warranty, today) with
        {
            Acts = acts,
            CoolerOn = chosen is null ? null : OnOf(chosen, build, fit, kept?.Cooler?.Place ?? plan?.Cooler?.Place, housing),
            DoesNotFit =
                chosen is not null && fit is { Fits: false }
                    ? fit.Reasons.First(reason => reason.Code != FitCode.MeasureNeeded).Message
                    : null,
            // A log without a card is no proof that none is plugged in; the step says so.
            HasCard = JobCases.HasCard(job, runs) == true ? true : null,
            HasClosedRun = own.Any(PlanRuns.IsClosed),
            HasFixedRun = own.Any(PlanRuns.IsFixed),
            Boots = !asked.NoBoot,
            LiquidMetal = asked.LiquidMetal,
            Plugs = fit?.Plugs ?? [],
            PumpHeader = plan?.Cooler?.PumpHeader,
            Curves = acts.Contains("re-steer") || kept is not null ? CurvesOf(kept ?? plan) : [],
            Fans = FansOf(kept ?? plan),
            FirstPowerMaxC = build is null || after is null ? null : FirstPower.MaxC(build, after),
        };
    }

    /// <summary>What its steps hang on whatever is done.</summary>
    public static RepairFacts MachineOf(
        ProcessorPart? chip,
        BoardPart? board,
        CasePart? housing,
        string? coolerKind,
        Warranty? warranty,
        DateOnly today
    ) =>
        RepairFacts.OfMachine(board, chip, housing, coolerKind) with
        {
            EndsWarranty =
                warranty is { Route: null } && warranty.Runs(today)
                    ? [.. new[] { CauseRow.Case, CauseRow.Cooler }.Where(warranty.IsEndedBy)]
                    : [],
        };

    private static CoolerPart? Named(string? name, IReadOnlyList<CoolerPart> coolers) =>
        name is null ? null : coolers.FirstOrDefault(cooler => string.Equals(cooler.Name, name.Trim(), StringComparison.OrdinalIgnoreCase));

    private static NewCooler OnOf(CoolerPart cooler, Build? build, FitResult? fit, string? place, CasePart? housing) =>
        new(
            cooler.Name,
            cooler.Kind,
            cooler.IsLiquid ? place ?? (build is null ? "place that takes it" : null) : null,
            cooler.IsLiquid && housing?.Radiators?.FirstOrDefault(one => one.Place == place)?.TakesBays == true,
            fit?.FanRaisedMm > 0 || cooler.ReachTowardMemoryMm > build?.Board?.MemoryFromSocketMm,
            fit?.Turned == true
        );

    private static string[] CurvesOf(AirPlan? plan) =>
        [
            .. (plan?.Headers ?? [])
                .Where(header =>
                    header.Steering is { Points.Count: > 0 } && plan!.Fans.Any(fan => fan.Header == header.Name)
                    || header.Name == plan?.Cooler?.FanHeader
                )
                .Select(header =>
                    header.Steering is not { } curve
                        ? $"{header.Name}: full."
                        : $"{header.Name} follows {SourceWords(curve.Source)}: "
                            + $"{string.Join(", ", curve.Points.Select(point => $"{point.Percent:0} % at {point.C:0} °C"))}."
                ),
        ];

    private static string SourceWords(string source) =>
        source switch
        {
            "cpu" => "the processor",
            "gpu" => "the card",
            "cpu-gpu" => "the hotter of processor and card",
            "coolant" => "the liquid",
            _ => "the board",
        };

    private static string[] FansOf(AirPlan? plan) =>
        [
            .. (plan?.Fans ?? [])
                .GroupBy(fan => (fan.Place, fan.Inward))
                .Select(group => $"{group.Count()} at the {group.Key.Place} {(group.Key.Inward ? "in" : "out")}"),
        ];
}
