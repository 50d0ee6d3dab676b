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

    /// <summary>
    /// Put together of the library's parts and fan curves, since what is noted of a case and a curve fits some better than others.
    /// </summary>
    LibraryParts,

    /// <summary>The same with chips and coolers as different as those of one kind are: who knows only that may meet any.</summary>
    AnyOfKind,

    /// <summary>Put together likewise, processors and coolers of other sizes than the library's.</summary>
    HeldOut,
}

/// <summary>A machine as its parts are known, and as it truly is: two parts of one model are never quite alike.</summary>
/// <param name="Known">By its catalogue; a cooler that is too small is so by its catalogue as well.</param>
/// <param name="True">As it stands there.</param>
/// <param name="Heat">What heat meets in the true one.</param>
/// <param name="Case">What its owner tells of it.</param>
/// <param name="Faults">Severities by cause.</param>
public sealed record DrawnMachine(
    BenchMachine Known,
    BenchMachine True,
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

    /// <summary>By how much two cases of one model differ in their air: cables, filters, gaps.</summary>
    private const double CablesShare = 0.25;

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

    /// <summary>In so many machines of one kind a fault can be felt in one, or it is drawn anew.</summary>
    private const int MostTries = 200;

    /// <summary>
    /// Draws one. Where its faults cannot be felt in it, another machine of the same kind is drawn for them: were other faults drawn, those
    /// that are seldom felt would be rarer than the tables say.
    /// </summary>
    /// <param name="faults">Draws severities for what is known of the machine; a cause that cannot be in it must not be drawn.</param>
    public static DrawnMachine Draw(MachinePool pool, Random random, Func<CaseMachine, Random, Dictionary<string, double>?> faults)
    {
        while (true)
        {
            if (Spec(pool, random) is not { } spec)
            {
                continue;
            }

            CaseMachine told = new(
                spec.Cooler.Kind,
                Math.Round(-30 * Math.Log(1 - random.NextDouble())),
                IsComplete(spec),
                DiagnosisTables.Settings[random.Next(DiagnosisTables.Settings.Length)],
                HasCard: spec.Graphics is not null
            );
            if (faults(told, random) is not { } drawn)
            {
                continue;
            }

            for (int i = 0; i < MostTries; i++)
            {
                if (With(drawn, spec, told, random) is { } machine)
                {
                    return machine;
                }

                do
                {
                    spec = Spec(pool, random)!;
                } while (!IsAlike(spec, told));
            }
        }
    }

    private static bool IsComplete(BenchMachine spec) => PracticeCase.Complete.Contains(spec.Id);

    private static bool IsAlike(BenchMachine? spec, CaseMachine told) =>
        spec is not null
        && spec.Cooler.Kind == told.CoolerKind
        && spec.Graphics is not null == told.HasCard
        && IsComplete(spec) == told.Prebuilt;

    private static BenchMachine? Spec(MachinePool pool, Random random)
    {
        BenchMachine? spec =
            pool == MachinePool.Library
                ? MachineLibrary.Machines[random.Next(MachineLibrary.Machines.Count)]
                : Combined(random, () => pool == MachinePool.HeldOut ? OtherSize(random) : 1);
        return spec is not null && pool == MachinePool.AnyOfKind ? OtherOfKind(spec, random) : spec;
    }

    /// <summary>A machine with faults; null where its cooler cannot be made to fit, or they cannot be felt.</summary>
    private static DrawnMachine? With(Dictionary<string, double> faults, BenchMachine spec, CaseMachine told, Random random)
    {
        BenchMachine? known = faults.ContainsKey(TooSmall) ? TooSmallFor(spec, random) : Enough(spec);
        if (known is null || FeltFaults.Of(known, faults) is not { } felt)
        {
            return null;
        }

        (BenchMachine truth, HeatMachine heat) = Scattered(known, random);
        // What holds by its catalogue and not as it stands is too small for its owner, whatever the draw calls it; and the other way round.
        if (FeltFaults.AtRatedC(truth, RoomOf(truth), heat) > truth.Processor.TemperatureLimitC != faults.ContainsKey(TooSmall))
        {
            return null;
        }

        return new DrawnMachine(known with { Cooler = Catalogued(known) }, truth, heat, told, felt);
    }

    /// <summary>Another chip and another cooler where these stand.</summary>
    private static BenchMachine OtherOfKind(BenchMachine spec, Random random)
    {
        double Other() => Math.Exp(OfKindShare * Normal(random));
        double watts = Other(),
            size = Other();
        TrueProcessor chip = Sized(new TrueProcessor("other", spec.Processor, spec.Truth.Processor, ""), watts, Other());
        return spec with
        {
            Processor = chip.Part,
            Truth = spec.Truth with { Processor = chip.Truth, Cooler = Sized(spec.Truth.Cooler, size, Other()) },
        };
    }

    private static TrueProcessor Sized(TrueProcessor chip, double watts, double inside) =>
        chip with
        {
            Part = chip.Part with
            {
                SustainedPowerW = chip.Part.SustainedPowerW * watts,
                BoostPowerW = chip.Part.BoostPowerW * watts,
                InsideResistanceCPerW = chip.Part.InsideResistanceCPerW * inside,
            },
            Truth = chip.Truth with { IdleW = chip.Truth.IdleW * watts },
        };

    /// <summary>Its cooler as its maker's catalogue has it: measured at three speeds, to a thousandth.</summary>
    private static CoolerPart Catalogued(BenchMachine machine)
    {
        CoolerHeat cooler = HeatMachines.Of(machine).Cooler!;
        double[] speeds = cooler.MaxRpm > 0 ? [.. CatalogueSpeeds.Select(share => Math.Round(share * cooler.MaxRpm))] : [0];
        return machine.Cooler with
        {
            Performance = [.. speeds.Select(rpm => new PerformancePoint(rpm, Math.Round(cooler.BaseToAirCPerW(rpm), 3)))],
        };
    }

    private static readonly double[] CatalogueSpeeds = [0.45, 0.7, 1];

    private static CoolerPart Faster(CoolerPart cooler, double by) =>
        cooler with
        {
            Fans = [.. cooler.Fans!.Select(fan => fan with { MaxRpm = fan.MaxRpm * by })],
        };

    private static CoolerTruth Sized(CoolerTruth cooler, double fins, double toFins) =>
        cooler with
        {
            FinsCPerW = cooler.FinsCPerW * fins,
            ToFinsCPerW = cooler.ToFinsCPerW * toFins,
            FinsJPerK = cooler.FinsJPerK / fins,
        };

    /// <summary>By how much parts of one kind differ, as a standard deviation of their logarithm.</summary>
    private const double OfKindShare = 0.2;

    /// <summary>A size that no part of the library has.</summary>
    private static double OtherSize(Random random) => random.Next(2) == 0 ? Between(random, 0.72, 0.92) : Between(random, 1.08, 1.35);

    /// <summary>Parts put together at random; null where nobody would.</summary>
    /// <param name="size">Draws by how much chip and cooler differ from the library's.</param>
    private static BenchMachine? Combined(Random random, Func<double> size)
    {
        T One<T>(IReadOnlyList<T> list) => list[random.Next(list.Count)];
        TrueProcessor chip = Sized(One(MachineLibrary.Processors), size(), size());
        chip = chip with { Truth = chip.Truth with { Cores = 4 * random.Next(1, 5) } };
        TrueCooler cooler = One(MachineLibrary.Coolers);
        cooler = cooler with { Truth = Sized(cooler.Truth, size(), size()), Part = Faster(cooler.Part, Between(random, 0.85, 1.2)) };
        TrueCase box = One(MachineLibrary.Cases);
        TrueCard? card = random.NextDouble() < 0.55 ? One(MachineLibrary.Graphics) : null;
        if (box.Part.Fans!.Count < 2 && (card?.Part.PowerW > 100 || cooler.Part.IsLiquid))
        {
            return null;
        }

        // Nobody builds a tower cooler into a till, nor cools 100 W without a fan.
        bool small = box.Id is "till" or "compact";
        if (
            (small && (cooler.Part.Kind is not ("down-draught" or "passive") || chip.Part.SustainedPowerW > MostInSmallW))
            || (cooler.Part.Kind == "passive" && chip.Part.SustainedPowerW > MostPassiveW)
        )
        {
            return null;
        }

        RadiatorWay[] ways =
        [
            .. RadiatorWay.Chosen.Where(way =>
                (box.Part.Radiators ?? []).Any(one =>
                    one.Place == way.Place && one.SizesMm?.Contains(cooler.Part.RadiatorSizeMm ?? 0) == true
                )
            ),
        ];
        if (cooler.Part.IsLiquid && ways.Length == 0)
        {
            return null;
        }

        string[] shows = Sensors[random.Next(Sensors.Length)];
        Steering caseFans = One(MachineLibrary.Steerings).Curve;
        if (card is null && caseFans.Source is "gpu" || !cooler.Part.IsLiquid && caseFans.Source == "coolant")
        {
            return null;
        }

        string curve =
            cooler.Part.IsLiquid && random.Next(2) == 0 ? "coolant"
            : random.Next(3) == 0 ? "quiet"
            : "cpu";
        return BenchMachine.Of(
            "combined",
            "Put together",
            chip,
            cooler,
            box,
            card,
            cooler.Part.IsLiquid ? One(ways).Id : null,
            MachineLibrary.Steerings.Single(row => row.Id == curve).Curve,
            caseFans,
            Between(random, 12, 45),
            cooler.Part.IsLiquid ? [.. shows, .. random.Next(2) == 0 ? new[] { "coolant", "tubes", "pump" } : ["pump"]] : shows,
            Math.Round(Between(random, 18, MostRoomC))
        );
    }

    private static double CaseAirC(BenchMachine spec) =>
        ExpectedState.CaseAirAt(HeatMachines.Of(spec), spec.Processor.SustainedPowerW, spec.Truth.Graphics?.IdleW ?? 0, spec.RoomC).Value;

    private static double AtRatedC(BenchMachine spec) => FeltFaults.AtRatedC(spec, RoomOf(spec));

    private static double RoomOf(BenchMachine spec) => Math.Min(spec.RoomC, MostRoomC);

    private static BenchMachine Cooled(BenchMachine spec, double factor) =>
        spec with
        {
            Truth = spec.Truth with
            {
                Cooler = spec.Truth.Cooler with
                {
                    FinsCPerW = spec.Truth.Cooler.FinsCPerW * factor,
                    ToFinsCPerW = spec.Truth.Cooler.ToFinsCPerW * Math.Sqrt(factor),
                    FinsJPerK = spec.Truth.Cooler.FinsJPerK / Math.Sqrt(factor),
                },
            },
        };

    /// <summary>A machine whose cooler holds it; null where no cooler does.</summary>
    private static BenchMachine? Enough(BenchMachine spec)
    {
        for (int i = 0; i < 12; i++)
        {
            if (AtRatedC(spec) < spec.Processor.TemperatureLimitC - ClearC)
            {
                return CaseAirC(spec) < MostCaseAirC ? spec : null;
            }

            spec = Cooled(spec, 0.88);
        }

        return null;
    }

    /// <summary>A machine whose cooler does not hold it although nothing is wrong.</summary>
    private static BenchMachine? TooSmallFor(BenchMachine spec, Random random)
    {
        double wanted = spec.Processor.TemperatureLimitC + Between(random, BeyondLeastC, BeyondMostC);
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
    private static (BenchMachine, HeatMachine) Scattered(BenchMachine known, Random random)
    {
        double Factor(double share) => Math.Exp(share / 1.96 * Normal(random));
        double cooler = Factor(Defaults.CatalogueShare);
        CoolerTruth nominal = known.Truth.Cooler;
        BenchMachine truth = known with
        {
            Processor = known.Processor with
            {
                InsideResistanceCPerW = known.Processor.InsideResistanceCPerW * Factor(Defaults.InsideKnownShare),
            },
            Truth = known.Truth with
            {
                Cooler = nominal with
                {
                    PasteCPerW = Math.Max(
                        0.01,
                        (nominal.PasteCPerW * cooler) + (MountC * Normal(random) / known.Processor.SustainedPowerW)
                    ),
                    ToFinsCPerW = nominal.ToFinsCPerW * cooler,
                    FinsCPerW = nominal.FinsCPerW * cooler,
                    BaseJPerK = nominal.BaseJPerK * Factor(0.2),
                    FinsJPerK = nominal.FinsJPerK * Factor(0.2),
                },
                BoardW = Math.Max(6, known.Truth.BoardW + (5 * Normal(random))),
            },
            Graphics = known.Graphics is { } card
                ? card.With(
                    card.InsideResistanceCPerW!.Value * Factor(Defaults.CardKnownShare),
                    card.FinsResistanceCPerW!.Value * Factor(Defaults.CardKnownShare)
                )
                : null,
        };
        return (truth, HeatMachines.Of(truth) with { CaseFactor = Factor(CablesShare) });
    }

    internal static double Between(Random random, double low, double high) => low + ((high - low) * random.NextDouble());

    internal static double Normal(Random random) =>
        Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());
}
