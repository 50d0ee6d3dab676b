using Remedos.Core.Machines;
using Remedos.Core.Physics;

namespace Remedos.Core.SteadyState;

/// <summary>Makes the heat's machine from parts, with what is true of them beside it where the simulated bench knows that.</summary>
public static class HeatMachines
{
    /// <summary>Case fans of a case of which none are known: two in, one out, of 120 mm at 1000 rpm.</summary>
    private static readonly IReadOnlyList<PlannedFan> TypicalFans =
    [
        new("typical-1", "front", true, 120, 1000),
        new("typical-2", "front", true, 120, 1000),
        new("typical-3", "rear", false, 120, 1000),
    ];

    /// <summary>Likewise under a flat cooler: such machines are flat or small themselves.</summary>
    private static readonly IReadOnlyList<PlannedFan> SmallCaseFans = [new("typical-1", "rear", false, 80, 1500)];

    /// <summary>A machine of the simulated bench: its parts like anybody's, but for what is true of them.</summary>
    public static HeatMachine Of(BenchMachine machine)
    {
        HeatMachine known = Of(machine.Build, machine.Cooler, machine.Plan);
        MachineTruth truth = machine.Truth;
        CaseFan[] own = [.. machine.OwnFans];
        CaseFan[] ofRadiator = [.. known.Fans.Skip(known.RadiatorFrom).Take(known.RadiatorFans)];
        CaseFan[] supply = truth.Case.Supply is { } fan ? [fan] : [];
        return known with
        {
            Cooler = CoolerOf(known.Cooler!, truth.Cooler),
            Card = known.Card is { } card ? card with { HotspotC = truth.Graphics!.HotspotC } : null,
            Fans = [.. own, .. ofRadiator, .. supply],
            FanHeaders = [.. known.FanHeaders.Take(own.Length + ofRadiator.Length), .. supply.Select(_ => HeatMachine.Supply)],
            Openings = truth.Case.Openings,
            PanelK = truth.Case.PanelK,
            MetalWPerK = truth.Case.ChassisWPerK,
            BoardW = truth.BoardW,
            Store = new HeatStore(
                truth.Processor.DieJPerK,
                truth.Cooler.BaseJPerK,
                truth.Cooler.FinsJPerK,
                truth.Case.AirJPerK,
                truth.Case.ChassisJPerK,
                truth.Graphics?.DieJPerK ?? 1,
                truth.Graphics?.FinsJPerK ?? 1
            ),
        };
    }

    /// <summary>A cooler as it is, its pump on its maker's own curve.</summary>
    private static CoolerHeat CoolerOf(CoolerHeat known, CoolerTruth truth)
    {
        double? flow = truth.FlowLpm * Defaults.PumpShare;
        double film = flow is null ? truth.ToFinsCPerW : truth.ToFinsCPerW * Math.Pow(Defaults.PumpShare, PhysicalConstants.FlowExponent);
        double transport = flow is { } lpm ? PhysicalConstants.HalfTubeDifferenceC(1, lpm) : 0;
        return known with
        {
            PasteCPerW = truth.PasteCPerW,
            FilmCPerW = film,
            FlowLpm = flow,
            Fins = CoolerCurve.Of(truth.PasteCPerW + film + transport, truth.FinsCPerW, known.MaxRpm),
            MinShare = 0,
        };
    }

    /// <summary>A machine of a workshop's parts, with a cooler and with its fans and headers as planned.</summary>
    /// <param name="build">Whose <c>Problem</c> is null.</param>
    /// <param name="cooler">Null while none is known: then only its air is computed.</param>
    /// <param name="plan">Whose <c>Problem</c> is null.</param>
    public static HeatMachine Of(Build build, CoolerPart? cooler, AirPlan plan)
    {
        HeatMachine bare = Without(build, plan, InSmallCase(build, cooler));
        return cooler is null ? bare : With(bare, build, cooler, new CoolerCurve(cooler), plan);
    }

    /// <summary>Whether a machine of which no case is known is taken for a small one.</summary>
    internal static bool InSmallCase(Build build, CoolerPart? cooler) => cooler?.Kind == "down-draught" && build.Graphics is null;

    /// <summary>All of it but the cooler, which is the same for all coolers of one plan.</summary>
    internal static HeatMachine Without(Build build, AirPlan plan, bool inSmallCase)
    {
        bool caseKnown = build.Case?.Fans is not null || plan.Fans.Count > 0;
        IReadOnlyList<PlannedFan> own =
            caseKnown ? plan.Fans
            : inSmallCase ? SmallCaseFans
            : TypicalFans;
        bool supply = build.Case?.SupplyApart != true;
        CaseFan[] fans = [.. own.Select(fan => Blowing(build, plan, fan, fan.Place, fan.Inward)), .. supply ? new[] { FanLaw.Supply } : []];
        int[] headers = [.. own.Select(fan => HeaderOf(plan, fan.Header)), .. supply ? new[] { HeatMachine.Supply } : []];
        Steering?[] curves = [.. plan.Headers.Select(header => header.Steering)];
        // Metal and air go with the sheets of the case.
        double size = (build.Case?.SheetM2 ?? Defaults.CaseM2) / Defaults.CaseM2;
        return new HeatMachine
        {
            InsideCPerW = build.Processor.InsideResistanceCPerW ?? Defaults.InsideCPerW,
            InsideHalfShare = build.Processor.InsideResistanceCPerW is null ? Defaults.InsideUnknownShare : Defaults.InsideKnownShare,
            Cooler = null,
            Card = CardOf(build.Graphics),
            Fans = fans,
            FanHeaders = headers,
            RadiatorFrom = own.Count,
            RadiatorFans = 0,
            Openings = FanLaw.LeaksOf(build.Case?.Front),
            OpenFrame = build.Case?.OpenFrame == true,
            MetalWPerK = size * Defaults.CaseMetalWPerK,
            CaseHalfShare = caseKnown ? Defaults.CaseAirShare : Defaults.UnknownCaseShare,
            FixedFansHalfShare =
                caseKnown && build.FansFollow == Steering.Fixed && AirPlans.FixedShare(build, plan.Fans) is null
                    ? Defaults.FixedFansAirShare
                    : 0,
            CaseFanMaxRpm = caseKnown && own.Count > 0 ? own.Max(fan => fan.MaxRpm) : null,
            BoardW = Defaults.BoardW,
            BoardHalfW = Defaults.BoardHalfW,
            Curves = curves,
            Store = new HeatStore(
                Defaults.DieJPerK,
                Defaults.BaseJPerK,
                Defaults.FinsJPerK("tower", null),
                size * Defaults.CaseAirJPerK,
                size * Defaults.ChassisJPerK,
                Defaults.CardDieJPerK,
                Defaults.CardFinsJPerK
            ),
        };
    }

    /// <summary>A machine with a cooler on it; the fans of a radiator that hangs in it move its air as well.</summary>
    /// <param name="bare">Of <see cref="Without"/>.</param>
    /// <param name="curve">The cooler's.</param>
    internal static HeatMachine With(HeatMachine bare, Build build, CoolerPart cooler, CoolerCurve curve, AirPlan plan)
    {
        int header = HeaderOf(plan, plan.Cooler?.FanHeader);
        string? hangs = cooler.IsLiquid ? plan.Cooler?.Place : null;
        HeatMachine machine = bare with
        {
            Cooler = CoolerOf(cooler, curve, plan.Cooler, header, hangs is not null),
            Store = bare.Store with { Fins = Defaults.FinsJPerK(cooler.Kind, cooler.RadiatorSizeMm) },
        };
        if (hangs is null || cooler.Fans is not { Count: > 0 } blowing)
        {
            return machine;
        }

        // Behind the case's own, before the supply's.
        int own = bare.RadiatorFrom,
            radiator = blowing.Count;
        CaseFan[] fans = new CaseFan[bare.Fans.Count + radiator];
        int[] headers = new int[fans.Length];
        for (int i = 0; i < fans.Length; i++)
        {
            (fans[i], headers[i]) =
                i >= own && i < own + radiator
                    ? (Blowing(build, plan, blowing[i - own], hangs, plan.Cooler!.Inward, throughFins: true), header)
                    : (bare.Fans[i < own ? i : i - radiator], bare.FanHeaders[i < own ? i : i - radiator]);
        }

        return machine with
        {
            Fans = fans,
            FanHeaders = headers,
            RadiatorFans = radiator,
        };
    }

    private static CaseFan Blowing(Build build, AirPlan plan, Fan fan, string place, bool inward, bool throughFins = false) =>
        FanLaw.Of(place, inward, fan.ReckonedMm, fan.MaxRpm, fan.DbaAtMax, plan.Filter, throughFins, build.Case?.Front);

    private static int HeaderOf(AirPlan plan, string? name) => name is null ? HeatMachine.Full : IndexOf(plan.Headers, name);

    /// <summary>Of case fans that are fixed, a phrase behind the case's; and what to note of them.</summary>
    internal const string FixedPhrase = ", fans fixed at ",
        FixedMissing = "at what speed its case fans are fixed";

    /// <summary>What its figures are from, a phrase each: “Mullion 120, by its catalogue”.</summary>
    public static IReadOnlyList<string> Sources(Build build, CoolerPart? cooler) =>
        [
            .. cooler is null ? Array.Empty<string>() : [$"{cooler.Name}, {Knowledge(cooler).From}"],
            build.Processor.InsideResistanceCPerW is null ? $"{build.Processor.Name}, taken for a usual chip" : build.Processor.Name,
            (build.Case?.Name ?? (build.Case?.Fans is not null ? "its case fans" : "a usual case")) + FixedWords(build),
        ];

    private static string FixedWords(Build build) =>
        build.FansFollow != Steering.Fixed ? ""
        : build.FansFixedRpm is { } rpm ? $"{FixedPhrase}{rpm:0} rpm"
        : $"{FixedPhrase}a speed that nobody noted";

    /// <summary>What should be noted so that it could be told better, a phrase each.</summary>
    public static IReadOnlyList<string> Missing(Build build, CoolerPart? cooler) =>
        [
            .. new[]
            {
                build.Processor.InsideResistanceCPerW is null ? "which processor it is" : null,
                cooler is null ? "which cooler is on it"
                : cooler.Performance is not { Count: > 0 } ? "what its cooler’s resistance is"
                : null,
                build.Case?.Fans is null ? "which case it is, and its fans"
                : build is { FansFollow: Steering.Fixed, FansFixedRpm: null } ? FixedMissing
                : null,
            }.OfType<string>(),
        ];

    private static (double Share, string From) Knowledge(CoolerPart cooler) =>
        cooler.SpreadShare is { } spread ? (spread, "measured here")
        : cooler.Measured ? (Defaults.MeasuredShare, "measured here")
        : cooler.Performance is { Count: > 0 } ? (Defaults.CatalogueShare, "by its catalogue")
        : cooler.ClaimedW is not null ? (Defaults.ClaimShare, "by its maker’s claim alone")
        : (Defaults.KindShare, "of which only the kind is known");

    private static CoolerHeat CoolerOf(CoolerPart cooler, CoolerCurve curve, PlannedCooler? hangs, int header, bool hung)
    {
        double solid = curve.SolidCPerW,
            paste = Math.Min(Defaults.PasteCPerW, solid / 2);
        double? flow = cooler.IsLiquid ? Defaults.LoopFlowLpm : null;
        // What the liquid's own warming adds is in the catalogue's figure; of a very good loop it is no more than half of what is left.
        double transport = flow is { } lpm ? Math.Min(PhysicalConstants.HalfTubeDifferenceC(1, lpm), (solid - paste) / 2) : 0;
        if (transport > 0)
        {
            flow = PhysicalConstants.HalfTubeDifferenceC(1, 1) / transport;
        }

        double full = cooler.FullRpm;
        return new CoolerHeat(
            cooler.Kind,
            paste,
            solid - paste - transport,
            flow,
            curve,
            full,
            full > 0 ? LeastRpm(cooler) / full : 0,
            header,
            !hung ? RadiatorAir.None
                : hangs!.Inward ? RadiatorAir.In
                : RadiatorAir.Out,
            Knowledge(cooler).Share
        );
    }

    private static double LeastRpm(CoolerPart cooler)
    {
        double least = double.PositiveInfinity;
        for (int i = 0; i < cooler.Fans!.Count; i++)
        {
            least = Math.Min(least, cooler.Fans[i].MinRpm ?? 0);
        }

        return least;
    }

    /// <summary>The usual card that draws so much.</summary>
    internal static CardHeat UsualCard(double watts) => CardOf(new GraphicsPart(watts))!;

    private static CardHeat? CardOf(GraphicsPart? card)
    {
        // A card of which neither watts nor resistance are known warms the case by what it draws; of its own chip nothing is said.
        if (card is null or { PowerW: null or 0, ResistanceCPerW: null })
        {
            return null;
        }

        double watts = card.PowerW ?? 0,
            whole = card.ResistanceCPerW ?? Defaults.CardRiseC / watts;
        double inside = Math.Min(card.InsideResistanceCPerW ?? (Defaults.CardInsideShare * whole), 0.9 * whole);
        return new CardHeat(
            watts,
            inside,
            whole - inside,
            Defaults.CardHotspotC,
            card.ResistanceCPerW is null ? Defaults.CardUnknownShare : Defaults.CardKnownShare
        );
    }

    private static int IndexOf(IReadOnlyList<PlannedHeader> headers, string name)
    {
        for (int i = 0; i < headers.Count; i++)
        {
            if (headers[i].Name == name)
            {
                return i;
            }
        }

        return HeatMachine.Full;
    }
}
