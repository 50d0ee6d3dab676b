using Remedos.Core.Physics;

namespace Remedos.Core.Machines;

/// <summary>
/// A machine that the simulated bench can run: a build, its cooler and its plan as anybody's are, and beside them what is true of them.
/// </summary>
/// <param name="Plan">Two headers: <see cref="CoolerHeader"/> and <see cref="CaseHeader"/>.</param>
/// <param name="Shows">What its board shows beside package temperature, power, clock, load and fan: cores, control, coolant, tubes, pump,
/// case-air, case-fan.</param>
public sealed record BenchMachine(
    string Id,
    string Name,
    Build Build,
    CoolerPart Cooler,
    AirPlan Plan,
    MachineTruth Truth,
    IReadOnlyList<string> Shows
)
{
    /// <summary>Where the headers of the cooler's fans and of the case's stand in the plan.</summary>
    internal const int CoolerHeader = 0,
        CaseHeader = 1;

    private static readonly string[] HeaderNames = ["CPU", "CASE"];

    /// <summary>A machine of parts.</summary>
    /// <param name="radiator">Of <see cref="RadiatorWay.Ids"/>; null for an air cooler.</param>
    internal static BenchMachine Of(
        string id,
        string name,
        TrueProcessor processor,
        TrueCooler cooler,
        TrueCase box,
        TrueCard? card,
        string? radiator,
        Steering coolerFan,
        Steering caseFans,
        double boardW,
        IReadOnlyList<string> shows,
        double roomC
    )
    {
        Build build = new(
            processor.Part,
            Case: box.Part,
            Graphics: card?.Part,
            RoomC: roomC,
            CurrentCooler: cooler.Id,
            FansFollow: caseFans.Points.Count > 1 ? caseFans.Source : Steering.Fixed,
            RadiatorAt: radiator
        );
        MachineTruth truth = new(processor.Truth, cooler.Truth, box.Truth, card?.Truth, boardW);
        return new BenchMachine(id, name, build, cooler.Part, PlanOf(box.Part, radiator, coolerFan, caseFans), truth, shows);
    }

    /// <summary>The same with another cooler.</summary>
    internal BenchMachine With(TrueCooler cooler, string? radiator, Steering coolerFan) =>
        this with
        {
            Build = Build with { CurrentCooler = cooler.Id, RadiatorAt = radiator },
            Cooler = cooler.Part,
            Plan = PlanOf(Build.Case!, radiator, coolerFan, CaseFans),
            Truth = Truth with { Cooler = cooler.Truth },
        };

    private static AirPlan PlanOf(CasePart box, string? radiator, Steering coolerFan, Steering caseFans)
    {
        RadiatorWay? hung = RadiatorWay.Of(radiator);
        return new AirPlan(
            [.. (box.Fans ?? []).Select((fan, i) => fan.Planned($"{i}", HeaderNames[CaseHeader])).Where(fan => fan.Place != hung?.Place)],
            new PlannedCooler(hung?.Place, hung?.Inward == true, HeaderNames[CoolerHeader]),
            [new(HeaderNames[CoolerHeader], null, coolerFan), new(HeaderNames[CaseHeader], null, caseFans)]
        );
    }

    /// <summary>Its processor.</summary>
    public ProcessorPart Processor
    {
        get => Build.Processor;
        init => Build = Build with { Processor = value };
    }

    /// <summary>Its graphics card; null without one.</summary>
    public GraphicsPart? Graphics
    {
        get => Build.Graphics;
        init => Build = Build with { Graphics = value };
    }

    /// <summary>Where it usually stands, °C.</summary>
    public double RoomC
    {
        get => Build.RoomC;
        init => Build = Build with { RoomC = value };
    }

    /// <summary>What it draws until its budget is used up, W.</summary>
    public double BoostW => Processor.BoostPowerW ?? Processor.SustainedPowerW;

    /// <summary>How long that is, s.</summary>
    public double BoostSeconds => Processor.BoostSeconds ?? 0;

    /// <summary>What the cooler’s fans follow.</summary>
    public Steering CoolerFan => Plan.Headers[CoolerHeader].Steering!;

    /// <summary>What the case’s fans follow.</summary>
    public Steering CaseFans => Plan.Headers[CaseHeader].Steering!;

    /// <summary>The card’s watts at a share of its load; 0 without one.</summary>
    public double CardW(double load) =>
        Graphics?.PowerW is { } full && Truth.Graphics is { } card ? card.IdleW + ((full - card.IdleW) * load) : 0;

    /// <summary>The case’s fans that hang where no radiator does, as their makers’ curves have them.</summary>
    internal IEnumerable<CaseFan> OwnFans => Plan.Fans.Select(fan => Curve(fan, Truth.Case.Fans[int.Parse(fan.Id)]));

    private static CaseFan Curve(PlannedFan fan, FanTruth truth) =>
        new(fan.Place, fan.Inward, truth.StallPa, truth.FreeM3PerH, fan.MaxRpm, fan.DbaAtMax, truth.PathK);
}
