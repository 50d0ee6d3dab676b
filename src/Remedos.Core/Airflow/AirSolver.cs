using Remedos.Core.Machines;
using Remedos.Core.Matching;

namespace Remedos.Core.Airflow;

/// <summary>What one fan does. Flow m³/h inward; negative blows out.</summary>
/// <param name="Id">Of the plan; “radiator” for all fans of a radiator together, “supply” for the power supply.</param>
/// <param name="Overcome">Whether the air goes through it against its direction.</param>
public sealed record FanState(string Id, double Rpm, double Percent, double InflowM3PerH, bool Overcome);

/// <summary>A machine at rest with its air and its fans in agreement. °C, m³/h, Pa, dB(A) at 1 m.</summary>
/// <param name="Pressure">more-in, balanced or more-out.</param>
/// <param name="ProcessorC">Null while its cooler is not known; above the limit it would throttle.</param>
/// <param name="CardC">Null without a card.</param>
/// <param name="LiquidC">Null without a loop.</param>
/// <param name="CoolerRpm">Of the cooler's fans; null without.</param>
public sealed record AirAnswer(
    double CasePa, string Pressure, double ExchangeM3PerH, IReadOnlyList<FanState> Fans, IReadOnlyList<double> OpeningInflowsM3PerH, double CaseAirC, double? ProcessorC, double? CardC, double? LiquidC, double? CoolerRpm, double NoiseDba)
{
    public const string MoreIn = "more-in", Balanced = "balanced", MoreOut = "more-out";

    /// <summary>What a steering reads that follows this; the next best thing where there is no such sensor.</summary>
    /// <param name="source">Of <see cref="Steering.Sources"/>.</param>
    public double SourceC(string source) => source switch
    {
        "cpu" => ProcessorC ?? CaseAirC,
        "coolant" => LiquidC ?? ProcessorC ?? CaseAirC,
        "gpu" => CardC ?? CaseAirC,
        "cpu-gpu" => Math.Max(ProcessorC ?? CaseAirC, CardC ?? CaseAirC),
        _ => CaseAirC,
    };
}

/// <summary>
/// Finds the state in which every fan turns as fast as its steering asks for at the temperatures that its air brings about. More air is cooler and cooler is slower, so the states pull towards each other; half a step
/// at a time reaches the one they agree on.
/// </summary>
public sealed class AirSolver
{
    /// <summary>So far from the room's pressure is none that a finger would feel, Pa.</summary>
    private const double FeltPa = 0.3;

    /// <summary>A healthy card at full load stands so far above the air it breathes, °C.</summary>
    private const double UsualCardRiseC = 33;

    private const int Rounds = 120;

    private const double Step = 0.5, NearEnough = 0.0005;

    private readonly Build _build;

    private readonly CoolerPart? _cooler;

    private readonly AirPlan _plan;

    private readonly CaseFan[] _fans;

    /// <summary>Which header each fan hangs on; −1 for full, −2 for the supply's own.</summary>
    private readonly int[] _headers;

    private readonly Opening[] _openings;

    private readonly int _coolerHeader, _radiatorFrom, _radiatorFans;

    private readonly CoolerCurve? _curve;

    private readonly double _coolerMaxRpm, _coolerMinShare, _cardCPerW;

    private readonly double _inside;

    /// <summary>Prepares a plan whose <c>Problem</c> is null.</summary>
    public AirSolver(Build build, CoolerPart? cooler, AirPlan plan)
    {
        (_build, _cooler, _plan) = (build, cooler, plan);
        int HeaderOf(string? name) => name is null ? -1 : plan.Headers.Select((header, i) => (header, i)).First(pair => pair.header.Name == name).i;
        List<CaseFan> fans = [.. plan.Fans.Select(fan => FanLaw.Of(fan.Place, fan.Inward, fan.SizeMm, fan.MaxRpm, fan.NoiseAtMaxDba, plan.Filter))];
        List<int> headers = [.. plan.Fans.Select(fan => HeaderOf(fan.Header))];
        _coolerHeader = HeaderOf(plan.Cooler?.FanHeader);
        _radiatorFrom = fans.Count;
        if (cooler is { IsLiquid: true, Fans: { } own } && plan.Cooler is { Place: { } place } hung)
        {
            foreach (CoolerFan fan in own)
            {
                fans.Add(FanLaw.Of(place, hung.Inward, fan.SizeMm, fan.MaxRpm, fan.NoiseAtMaxDba, plan.Filter, throughFins: true));
                headers.Add(_coolerHeader);
            }
        }

        _radiatorFans = fans.Count - _radiatorFrom;
        fans.Add(FanLaw.Supply);
        headers.Add(-2);
        (_fans, _headers) = ([.. fans], [.. headers]);
        _openings = plan.PanelOff ? [.. FanLaw.Leaks, new Opening("panel", CaseAir.PanelK)] : [.. FanLaw.Leaks];
        if (cooler is not null)
        {
            _curve = new CoolerCurve(cooler);
            _coolerMaxRpm = cooler.Fans?.Select(fan => fan.MaxRpm).DefaultIfEmpty(0).Max() ?? 0;
            _coolerMinShare = _coolerMaxRpm > 0 ? cooler.Fans!.Min(fan => fan.MinRpm) / _coolerMaxRpm : 0;
        }

        _inside = build.Processor.InsideResistanceCPerW ?? Predictor.UsualInsideCPerW;
        _cardCPerW = build.Graphics?.ResistanceCPerW ?? (build.Graphics?.PowerW is > 0 and { } full ? UsualCardRiseC / full : 0);
    }

    /// <summary>The machine at rest.</summary>
    /// <param name="load">Of <see cref="AirLoad"/>.</param>
    /// <param name="roomC">Null for the build's room.</param>
    public AirAnswer Solve(string load = AirLoad.Both, double? roomC = null) => Solve(AirLoad.ProcessorW(_build, load), AirLoad.CardW(_build, load), roomC ?? _build.RoomC);

    /// <summary>The machine at rest at given powers.</summary>
    /// <param name="held">A header whose fans turn at a given share instead of by their curve; −1 for none.</param>
    public AirAnswer Solve(double processorW, double cardW, double roomC, int held = -1, double heldShare = 1)
    {
        double[] shares = [.. _plan.Headers.Select(header => header.Steering is null ? 1 : 0.6)];
        if (held >= 0)
        {
            shares[held] = heldShare;
        }

        AirAnswer at = At(shares, processorW, cardW, roomC);
        double step = Step, last = double.PositiveInfinity;
        for (int round = 0; round < Rounds; round++)
        {
            double most = 0;
            for (int i = 0; i < shares.Length; i++)
            {
                if (i != held && _plan.Headers[i].Steering is { } steering)
                {
                    double change = steering.Share(at.SourceC(steering.Source)) - shares[i];
                    shares[i] += step * change;
                    most = Math.Max(most, Math.Abs(change));
                }
            }

            at = At(shares, processorW, cardW, roomC);
            if (most < NearEnough)
            {
                break;
            }

            // A steep curve overshoots: smaller steps then.
            step = most > 0.9 * last ? Math.Max(0.05, step * 0.7) : step;
            last = most;
        }

        return at;
    }

    private static double ShareOf(int header, double[] shares) => header switch { -2 => FanLaw.SupplyShare, -1 => 1, _ => shares[header] };

    private double CoolerShare(double[] shares) => Math.Max(_coolerMinShare, ShareOf(_coolerHeader, shares));

    private AirAnswer At(double[] shares, double processorW, double cardW, double roomC)
    {
        Span<double> speeds = stackalloc double[_fans.Length];
        for (int i = 0; i < speeds.Length; i++)
        {
            speeds[i] = i >= _radiatorFrom && i < _radiatorFrom + _radiatorFans ? CoolerShare(shares) : ShareOf(_headers[i], shares);
        }

        AirState air = CaseAir.Solve(_fans, speeds, _openings);
        bool hung = _radiatorFans > 0, inward = _plan.Cooler?.Inward == true;
        double wPerK = CaseAir.ConductanceWPerK(air.ExchangeM3PerH + (_plan.PanelOff ? CaseAir.OpenSideM3PerH : 0)) + BuildAir.ThroughMetalWPerK;
        // A radiator that blows in breathes the room and leaves its heat inside; one that blows out breathes the case and takes it along.
        double caseAir = roomC + ((cardW + BuildAir.BoardW + (hung && !inward ? 0 : processorW)) / wPerK);
        double breath = hung && inward ? roomC : caseAir;
        double? processor = null, liquid = null;
        if (_curve is { } curve)
        {
            double rpm = CoolerShare(shares) * _coolerMaxRpm;
            processor = breath + (processorW * (_inside + curve.At(rpm)));
            liquid = _cooler!.IsLiquid ? breath + (processorW * curve.FinsAt(rpm)) : null;
        }

        double? card = _build.Graphics is null ? null : caseAir + (cardW * _cardCPerW);
        return new AirAnswer(
            air.CasePa, air.CasePa > FeltPa ? AirAnswer.MoreIn : air.CasePa < -FeltPa ? AirAnswer.MoreOut : AirAnswer.Balanced, air.ExchangeM3PerH, States(air, shares), air.OpeningInflowsM3PerH, caseAir, processor, card, liquid,
            _cooler is null || _coolerMaxRpm == 0 ? null : CoolerShare(shares) * _coolerMaxRpm, NoiseDba(shares));
    }

    private List<FanState> States(AirState air, double[] shares)
    {
        List<FanState> states = [];
        for (int i = 0; i < _plan.Fans.Count; i++)
        {
            double share = ShareOf(_headers[i], shares);
            double inflow = air.FanInflowsM3PerH[i];
            states.Add(new FanState(_plan.Fans[i].Id, share * _fans[i].MaxRpm, 100 * share, inflow, share > 0.05 && inflow != 0 && inflow > 0 != _fans[i].Inward));
        }

        if (_radiatorFans > 0)
        {
            double inflow = air.FanInflowsM3PerH.Skip(_radiatorFrom).Take(_radiatorFans).Sum();
            states.Add(new FanState("radiator", CoolerShare(shares) * _coolerMaxRpm, 100 * CoolerShare(shares), inflow, inflow != 0 && inflow > 0 != _fans[_radiatorFrom].Inward));
        }

        double supply = air.FanInflowsM3PerH[^1];
        states.Add(new FanState("supply", FanLaw.SupplyShare * FanLaw.Supply.MaxRpm, 100 * FanLaw.SupplyShare, supply, supply > 0));
        return states;
    }

    private double NoiseDba(double[] shares)
    {
        double energy = (_cooler?.Fans ?? []).Sum(fan => Energy(CaseAir.FanDba(fan.NoiseAtMaxDba, CoolerShare(shares))));
        for (int i = 0; i < _plan.Fans.Count; i++)
        {
            energy += Energy(CaseAir.FanDba(_fans[i].NoiseAtMaxDba, ShareOf(_headers[i], shares)));
        }

        return energy <= 1 ? 0 : 10 * Math.Log10(energy);
    }

    private static double Energy(double dba) => dba <= 0 ? 0 : Math.Pow(10, dba / 10);
}
