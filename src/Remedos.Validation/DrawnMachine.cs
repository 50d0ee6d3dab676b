using Remedos.Core.Diagnosis;
using Remedos.Core.Machines;
using Remedos.Core.Practice;
using Remedos.Core.Simulation;
using Remedos.Core.SteadyState;

namespace Remedos.Validation;

/// <summary>Which machines are drawn: those that likelihoods are made from, or others that were held out from it.</summary>
public enum MachinePool
{
    /// <summary>Machines of the library, their parts scattered as parts of one model are.</summary>
    Library,

    /// <summary>The same with chips and coolers as different as those of one kind are: who knows only that may meet any.</summary>
    AnyOfKind,

    /// <summary>
    /// Processors, coolers, cases, cards and fan curves put together anew, processors and coolers of other sizes than the library's.
    /// </summary>
    HeldOut,
}

/// <summary>A machine as its parts are known, and as it truly is: two parts of one model are never quite alike.</summary>
/// <param name="Known">By its catalogue; a cooler that is too small is so by its catalogue as well.</param>
/// <param name="True">As it stands there.</param>
/// <param name="Heat">What heat meets in the true one.</param>
/// <param name="Case">What its owner tells of it.</param>
/// <param name="Faults">Severities by cause.</param>
public sealed record DrawnMachine(
    MachineSpec Known,
    MachineSpec True,
    HeatMachine Heat,
    CaseMachine Case,
    IReadOnlyDictionary<string, double> Faults
)
{
    public const string TooSmall = FeltFaults.TooSmall;

    /// <summary>A sound machine keeps so far from its limit, and one that is too small goes beyond it by so much, °C.</summary>
    private const double ClearC = 4,
        BeyondLeastC = 2,
        BeyondMostC = 14;

    private const double MostRoomC = 27,
        MountC = 1,
        MostInSmallW = 70,
        MostPassiveW = 65;

    /// <summary>A case whose air stands higher than this above the room is starved as it is built, °C.</summary>
    private const double MostCaseAirC = 15;

    private static readonly string[][] Sensors =
    [
        [],
        ["cores"],
        ["cores", "case-fan"],
        ["cores", "case-air"],
        ["control"],
        ["cores", "control", "case-fan"],
    ];

    /// <summary>Draws one.</summary>
    /// <param name="faults">Draws severities for what is known of the machine; a cause that cannot be in it must not be drawn.</param>
    public static DrawnMachine Draw(MachinePool pool, Random random, Func<CaseMachine, Random, Dictionary<string, double>?> faults)
    {
        while (true)
        {
            MachineSpec? spec =
                pool == MachinePool.HeldOut ? Combined(random) : MachineLibrary.Machines[random.Next(MachineLibrary.Machines.Count)];
            if (spec is null)
            {
                continue;
            }

            if (pool == MachinePool.AnyOfKind)
            {
                spec = OtherOfKind(spec, random);
            }

            CaseMachine told = new(
                spec.Cooler.Kind,
                Math.Round(-30 * Math.Log(1 - random.NextDouble())),
                PracticeCase.Complete.Contains(spec.Id),
                DiagnosisTables.Settings[random.Next(DiagnosisTables.Settings.Length)],
                HasCard: spec.Graphics is not null
            );
            if (faults(told, random) is not { } drawn)
            {
                continue;
            }

            MachineSpec? known = drawn.ContainsKey(TooSmall) ? TooSmallFor(spec, random) : Enough(spec);
            if (known is not null && FeltFaults.Of(known, drawn) is { } felt)
            {
                (MachineSpec truth, HeatMachine heat) = Scattered(known, random);
                return new DrawnMachine(known, truth, heat, told, felt);
            }
        }
    }

    /// <summary>Another chip and another cooler where these stand.</summary>
    private static MachineSpec OtherOfKind(MachineSpec spec, Random random)
    {
        double watts = Math.Exp(OfKindShare * Normal(random)),
            size = Math.Exp(OfKindShare * Normal(random));
        return spec with
        {
            Processor = spec.Processor with
            {
                SustainedW = spec.Processor.SustainedW * watts,
                BoostW = spec.Processor.BoostW * watts,
                IdleW = spec.Processor.IdleW * watts,
                InsideCPerW = spec.Processor.InsideCPerW * Math.Exp(OfKindShare * Normal(random)),
            },
            Cooler = spec.Cooler with
            {
                FinsCPerW = spec.Cooler.FinsCPerW * size,
                ToFinsCPerW = spec.Cooler.ToFinsCPerW * Math.Exp(OfKindShare * Normal(random)),
                FinsJPerK = spec.Cooler.FinsJPerK / size,
            },
        };
    }

    /// <summary>By how much parts of one kind differ, as a standard deviation of their logarithm.</summary>
    private const double OfKindShare = 0.2;

    /// <summary>Parts put together at random, the cooler of a size that goes with the chip.</summary>
    private static MachineSpec? Combined(Random random)
    {
        T One<T>(IReadOnlyList<T> list) => list[random.Next(list.Count)];
        double Other() => random.Next(2) == 0 ? Between(random, 0.72, 0.92) : Between(random, 1.08, 1.35);
        ProcessorSpec chip = One(MachineLibrary.Processors);
        double watts = Other();
        chip = chip with
        {
            Id = "other",
            SustainedW = chip.SustainedW * watts,
            BoostW = chip.BoostW * watts,
            IdleW = chip.IdleW * watts,
            InsideCPerW = chip.InsideCPerW * Other(),
            Cores = 4 * random.Next(1, 5),
        };
        CoolerSpec cooler = One(MachineLibrary.Coolers);
        double size = Other();
        cooler = cooler with
        {
            Id = "other",
            FinsCPerW = cooler.FinsCPerW * size,
            ToFinsCPerW = cooler.ToFinsCPerW * Other(),
            FinsJPerK = cooler.FinsJPerK / size,
            MaxRpm = cooler.MaxRpm * Between(random, 0.85, 1.2),
        };
        CaseSpec box = One(MachineLibrary.Cases);
        GraphicsSpec? card = random.NextDouble() < 0.55 ? One(MachineLibrary.Graphics) : null;
        if (box.Fans.Count(fan => fan.Place != "supply") < 2 && (card is { FullW: > 100 } || cooler.IsLiquid))
        {
            return null;
        }

        // Nobody builds a tower cooler into a till, nor cools 100 W without a fan.
        bool small = box.Id is "till" or "compact";
        if (
            (small && (cooler.Kind is not ("down-draught" or "passive") || chip.SustainedW > MostInSmallW))
            || (cooler.Kind == "passive" && chip.SustainedW > MostPassiveW)
        )
        {
            return null;
        }

        string[] shows = Sensors[random.Next(Sensors.Length)];
        Steering caseFans = One(MachineLibrary.Steerings).Curve;
        if (card is null && caseFans.Source is "gpu" || !cooler.IsLiquid && caseFans.Source == "coolant")
        {
            return null;
        }

        string curve =
            cooler.IsLiquid && random.Next(2) == 0 ? "coolant"
            : random.Next(3) == 0 ? "quiet"
            : "cpu";
        return new MachineSpec(
            "combined",
            "Put together",
            chip,
            cooler,
            box,
            card,
            cooler.IsLiquid ? One(MachineLibrary.Radiators) : null,
            MachineLibrary.Steerings.Single(row => row.Id == curve).Curve,
            caseFans,
            Between(random, 12, 45),
            cooler.IsLiquid ? [.. shows, .. random.Next(2) == 0 ? new[] { "coolant", "tubes", "pump" } : ["pump"]] : shows,
            Math.Round(Between(random, 18, MostRoomC)),
            "For validation."
        );
    }

    private static double CaseAirC(MachineSpec spec) =>
        ExpectedState.CaseAirAt(HeatMachines.Of(spec), spec.Processor.SustainedW, spec.Graphics?.IdleW ?? 0, spec.RoomC).Value;

    private static double AtRatedC(MachineSpec spec) => FeltFaults.AtRatedC(spec, Math.Min(spec.RoomC, MostRoomC));

    private static MachineSpec Cooled(MachineSpec spec, double factor) =>
        spec with
        {
            Cooler = spec.Cooler with
            {
                FinsCPerW = spec.Cooler.FinsCPerW * factor,
                ToFinsCPerW = spec.Cooler.ToFinsCPerW * Math.Sqrt(factor),
                FinsJPerK = spec.Cooler.FinsJPerK / Math.Sqrt(factor),
            },
        };

    /// <summary>A machine whose cooler holds it; null where no cooler does.</summary>
    private static MachineSpec? Enough(MachineSpec spec)
    {
        for (int i = 0; i < 12; i++)
        {
            if (AtRatedC(spec) < spec.Processor.LimitC - ClearC)
            {
                return CaseAirC(spec) < MostCaseAirC ? spec : null;
            }

            spec = Cooled(spec, 0.88);
        }

        return null;
    }

    /// <summary>A machine whose cooler does not hold it although nothing is wrong.</summary>
    private static MachineSpec? TooSmallFor(MachineSpec spec, Random random)
    {
        double wanted = spec.Processor.LimitC + Between(random, BeyondLeastC, BeyondMostC);
        for (int i = 0; i < 30; i++)
        {
            if (AtRatedC(spec) > wanted)
            {
                return spec;
            }

            spec = Cooled(spec, 1.1);
        }

        return null;
    }

    /// <summary>As the parts that truly stand there: each within what two of one model differ by.</summary>
    private static (MachineSpec, HeatMachine) Scattered(MachineSpec known, Random random)
    {
        double Factor(double share) => Math.Exp(share / 1.96 * Normal(random));
        double cooler = Factor(Defaults.CatalogueShare);
        MachineSpec truth = known with
        {
            Processor = known.Processor with { InsideCPerW = known.Processor.InsideCPerW * Factor(Defaults.InsideKnownShare) },
            Cooler = known.Cooler with
            {
                PasteCPerW = Math.Max(0.01, (known.Cooler.PasteCPerW * cooler) + (MountC * Normal(random) / known.Processor.SustainedW)),
                ToFinsCPerW = known.Cooler.ToFinsCPerW * cooler,
                FinsCPerW = known.Cooler.FinsCPerW * cooler,
                BaseJPerK = known.Cooler.BaseJPerK * Factor(0.2),
                FinsJPerK = known.Cooler.FinsJPerK * Factor(0.2),
            },
            BoardW = Math.Max(6, known.BoardW + (5 * Normal(random))),
            Graphics = known.Graphics is { } card
                ? card with
                {
                    InsideCPerW = card.InsideCPerW * Factor(Defaults.CardKnownShare),
                    FinsCPerW = card.FinsCPerW * Factor(Defaults.CardKnownShare),
                }
                : null,
        };
        return (truth, HeatMachines.Of(truth) with { CaseFactor = Factor(Defaults.CaseAirShare) });
    }

    internal static double Between(Random random, double low, double high) => low + ((high - low) * random.NextDouble());

    internal static double Normal(Random random) =>
        Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());
}
