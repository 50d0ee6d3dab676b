using System.Reflection;
using System.Text.Json;

namespace Remedos.Core.Machines;

/// <summary>A number that is judged and not measured, with half of the range that is believed and the reason.</summary>
public sealed record DefaultValue(string Id, double Value, double HalfWidth, string Unit, string Reason);

/// <summary>What is taken where nobody has measured; values and reasons stand in defaults.json, and nowhere else.</summary>
public static class Defaults
{
    /// <summary>All of them, as the file has them.</summary>
    public static IReadOnlyList<DefaultValue> All { get; } = Load();

    private static readonly Dictionary<string, DefaultValue> ById = All.ToDictionary(one => one.Id, StringComparer.Ordinal);

    /// <summary>A room nobody has measured, °C.</summary>
    public static readonly double RoomC = Of("roomC"),
        HottestRoomC = Of("hottestRoomC");

    /// <summary>Die to spreader, °C/W; its half-width is a share.</summary>
    public static readonly double InsideCPerW = Of("insideCPerW"),
        InsideUnknownShare = ById["insideCPerW"].HalfWidth,
        InsideKnownShare = Of("insideKnownShare");

    /// <summary>Half-widths of a cooler's resistance, shares.</summary>
    public static readonly double CatalogueShare = Of("catalogueShare"),
        MeasuredShare = Of("measuredShare"),
        OneMachineShare = Of("oneMachineShare"),
        ClaimShare = Of("claimShare"),
        KindShare = Of("kindShare"),
        UnknownKindShare = Of("unknownKindShare");

    /// <summary>
    /// Half-widths of the case air's rise, shares: of a known case; what fans fixed at a speed nobody noted add to it; of an unknown one.
    /// </summary>
    public static readonly double CaseAirShare = Of("caseAirShare"),
        FixedFansAirShare = Of("fixedFansAirShare"),
        UnknownCaseShare = Of("unknownCaseShare");

    /// <summary>
    /// Half-widths that no part brings, shares: of capacities, of how a cooler's resistance lies before and behind its fins, of a curve.
    /// </summary>
    public static readonly double CapacityShare = Of("capacityShare"),
        LeastSplitShare = Of("leastSplitShare"),
        MostSplitShare = Of("mostSplitShare"),
        CurveShare = Of("curveShare");

    /// <summary>Of a cooler's resistance at its fastest known point, what no fan blows away.</summary>
    public static readonly double LeastCurveShare = Of("leastCurveShare");

    /// <summary>W, and half of its range.</summary>
    public static readonly double BoardW = Of("boardW"),
        BoardHalfW = ById["boardW"].HalfWidth;

    /// <summary>From the case's air into its metal, W/K; half of it from there to the room.</summary>
    public static readonly double CaseMetalWPerK = Of("caseMetalWPerK"),
        CaseM2 = Of("caseM2");

    /// <summary>How air mixes in a case and passes it without fans; see defaults.json.</summary>
    public static readonly double Mixing = Of("mixing"),
        StillAirM3PerH = Of("stillAirM3PerH"),
        OpenSideM3PerH = Of("openSideM3PerH");

    /// <summary>Shares of full speed.</summary>
    public static readonly double SupplyFanShare = Of("supplyFanShare"),
        FixedFanShare = Of("fixedFanShare"),
        StillFanShare = Of("stillFanShare"),
        PumpShare = Of("pumpShare");

    /// <summary>A chip's limit where nobody has noted it, °C.</summary>
    public static readonly double LimitC = Of("limitC");

    /// <summary>A case fan of 120 mm at 1200 rpm: Pa without flow, m³/h without resistance, dB(A) at 1 m.</summary>
    public static readonly double FanStallPa = Of("fanStallPa"),
        FanFreeM3PerH = Of("fanFreeM3PerH"),
        FanDba = Of("fanDba");

    /// <summary>What stands in its way, Pa/(m³/h)² for 120 mm.</summary>
    public static readonly double GrilleK = Of("grilleK"),
        MeshK = Of("meshK"),
        ClosedFrontK = Of("closedFrontK"),
        FilterK = Of("filterK"),
        DustyFilterK = Of("dustyFilterK"),
        FinsK = Of("finsK");

    /// <summary>Where air passes without a fan, Pa/(m³/h)².</summary>
    public static readonly double SlotsK = Of("slotsK"),
        TopK = Of("topK"),
        ShutSlotsK = Of("shutSlotsK"),
        PanelK = Of("panelK");

    /// <summary>The power supply's own fan: Pa, m³/h, rpm, dB(A) at 1 m, Pa/(m³/h)².</summary>
    public static readonly double SupplyStallPa = Of("supplyStallPa"),
        SupplyFreeM3PerH = Of("supplyFreeM3PerH"),
        SupplyMaxRpm = Of("supplyMaxRpm"),
        SupplyDba = Of("supplyDba"),
        SupplyK = Of("supplyK");

    /// <summary>How a card's own fans follow its chip: from where, over how many °C, and no slower than which share of full.</summary>
    public static readonly double CardFansFromC = Of("cardFansFromC"),
        CardFansOverC = Of("cardFansOverC"),
        CardLeastFanShare = Of("cardLeastFanShare");

    /// <summary>What a cooler is taken for where its part does not say; see defaults.json.</summary>
    public static readonly double LoopFlowLpm = Of("loopFlowLpm"),
        PasteCPerW = Of("pasteCPerW"),
        ClaimedRiseC = Of("claimedRiseC"),
        CoolerMaxRpm = Of("coolerMaxRpm");

    /// <summary>What a card is taken for where its part does not say; see defaults.json.</summary>
    public static readonly double CardRiseC = Of("cardRiseC"),
        CardUnknownShare = ById["cardRiseC"].HalfWidth / ById["cardRiseC"].Value,
        CardInsideShare = Of("cardInsideShare"),
        CardKnownShare = Of("cardKnownShare"),
        CardHotspotC = Of("cardHotspotC");

    /// <summary>What chip and card draw at rest, of their full watts.</summary>
    public static readonly double RestingShare = Of("restingShare"),
        RestingCardShare = Of("restingCardShare"),
        FirmwareMostShare = Of("firmwareShare") + ById["firmwareShare"].HalfWidth;

    /// <summary>What a game draws of the sustained power.</summary>
    public static readonly double GameShare = Of("gameShare");

    /// <summary>Of the heat, what a lower voltage saves, and the ends of what is believed of it.</summary>
    public static readonly double UndervoltShare = Of("undervoltShare"),
        UndervoltLeastShare = Of("undervoltShare") - ById["undervoltShare"].HalfWidth,
        UndervoltMostShare = Of("undervoltShare") + ById["undervoltShare"].HalfWidth;

    /// <summary>What a used part costs, of the new one's price.</summary>
    public static readonly double UsedPriceShare = Of("usedPriceShare");

    /// <summary>Half-width of a noise that is expected and not measured, dB(A).</summary>
    public static readonly double NoiseHalfDba = ById["noiseDba"].HalfWidth;

    /// <summary>Standard deviation between mounts, °C.</summary>
    public static readonly double MountC = Of("mountC");

    /// <summary>What the parts of a machine store, J/K; see defaults.json.</summary>
    public static readonly double DieJPerK = Of("dieJPerK"),
        BaseJPerK = Of("baseJPerK"),
        LoopJPerKMm = Of("loopJPerKMm"),
        CaseAirJPerK = Of("caseAirJPerK"),
        ChassisJPerK = Of("chassisJPerK"),
        CardDieJPerK = Of("cardDieJPerK"),
        CardFinsJPerK = Of("cardFinsJPerK");

    /// <summary>Full speed of a cooler's fans of which only its kind is known, rpm.</summary>
    public static double MaxRpmOf(string kind) => kind == "down-draught" ? Of("down-draughtMaxRpm") : CoolerMaxRpm;

    /// <summary>Base to air of a cooler of which only its kind is known, °C/W at full speed.</summary>
    public static double CoolerCPerW(string kind) => Of($"{kind}CPerW");

    /// <summary>Fins of an air cooler, or liquid and radiator, J/K.</summary>
    /// <param name="radiatorMm">Of a loop; null for one of 240.</param>
    public static double FinsJPerK(string kind, double? radiatorMm) => kind == "liquid" ? LoopJPerKMm * (radiatorMm ?? 240) : OfFins[kind];

    private static readonly Dictionary<string, double> OfFins = CoolerPart
        .Kinds.Where(kind => kind != "liquid")
        .ToDictionary(kind => kind, kind => Of($"{kind}FinsJPerK"), StringComparer.Ordinal);

    /// <summary>Of a cooler known at one speed, what lies in paste, base and pipes, a share.</summary>
    public static double SolidShareOf(string kind) => Of(kind == "passive" ? "passiveSolidShare" : "coolerSolidShare");

    private static double Of(string id) => ById[id].Value;

    private static DefaultValue[] Load()
    {
        using Stream stream = Assembly.GetExecutingAssembly().GetManifestResourceStream("Remedos.Core.Machines.defaults.json")!;
        DefaultValue[] rows = JsonSerializer.Deserialize(stream, TableJson.Default.DefaultValueArray)!;
        return rows.FirstOrDefault(row => row.Reason.Length < 12 || row.HalfWidth < 0) is { } wrong
            ? throw new InvalidDataException($"defaults.json: “{wrong.Id}” lacks its reason.")
            : rows;
    }
}
