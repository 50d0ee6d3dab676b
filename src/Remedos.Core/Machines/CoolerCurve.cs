using Remedos.Core.Physics;

namespace Remedos.Core.Machines;

/// <summary>
/// A cooler's resistance over its fans' speed: straight lines over speed^−0.7, on which R = a + b·speed^−0.7 lies exactly, through the
/// points that are known. Beyond the ends the nearest line goes on, and never falls with less air.
/// </summary>
public sealed class CoolerCurve
{
    /// <summary>Speed^−0.7, resistance and slope of the line that begins at each point, slowest first.</summary>
    private readonly double[] _x,
        _r,
        _slope;

    private readonly double _constant,
        _stillRpm;

    private CoolerCurve(double solidCPerW, double finsCPerW, double maxRpm)
    {
        (_x, _r, _slope, _constant, SolidCPerW) = ([], [], [], solidCPerW + finsCPerW, solidCPerW);
        if (maxRpm > 0)
        {
            _stillRpm = Defaults.StillFanShare * maxRpm;
            double at = Thin(maxRpm);
            (_x, _r, _slope) = ([at], [solidCPerW + finsCPerW], [finsCPerW / at]);
        }
    }

    /// <summary>Of a cooler of which both parts are known, °C/W.</summary>
    /// <param name="finsCPerW">At full speed.</param>
    /// <param name="maxRpm">0 without fans.</param>
    public static CoolerCurve Of(double solidCPerW, double finsCPerW, double maxRpm) => new(solidCPerW, finsCPerW, maxRpm);

    /// <summary>The curve of one part.</summary>
    public CoolerCurve(CoolerPart cooler)
    {
        double full = cooler.FullRpm,
            solidShare = Defaults.SolidShareOf(cooler.Kind);
        _stillRpm = Defaults.StillFanShare * full;
        PerformancePoint[] points = [.. cooler.Performance ?? []];
        Array.Sort(points, (a, b) => a.Rpm.CompareTo(b.Rpm));
        double known =
            points.Length > 0 ? points[^1].ResistanceCPerW
            : cooler.ClaimedW is { } claimed ? Defaults.ClaimedRiseC / claimed
            : Defaults.CoolerCPerW(cooler.Kind);
        (_x, _r, _slope, _constant) = ([], [], [], known);
        if (full == 0)
        {
            _constant = points.Length > 0 ? points[0].ResistanceCPerW : known;
        }
        else if (points.Length < 2)
        {
            double at = Thin(points.Length > 0 ? points[0].Rpm : full);
            (_x, _r, _slope) = ([at], [known], [known * (1 - solidShare) / at]);
        }
        else
        {
            _x = Array.ConvertAll(points, point => Thin(point.Rpm));
            _r = Array.ConvertAll(points, point => point.ResistanceCPerW);
            _slope = new double[points.Length - 1];
            for (int i = 0; i < _slope.Length; i++)
            {
                _slope[i] = _x[i] - _x[i + 1] < 1e-12 ? 0 : Math.Max(0, (_r[i] - _r[i + 1]) / (_x[i] - _x[i + 1]));
            }
        }

        SolidCPerW =
            _x.Length == 0
                ? solidShare * _constant
                : Math.Clamp(_r[^1] - ((_slope.Length > 0 ? _slope[^1] : 0) * _x[^1]), Defaults.LeastCurveShare * _r[^1], _r[^1]);
    }

    /// <summary>From base to air, °C/W.</summary>
    /// <param name="rpm">Of its fans; ignored without.</param>
    public double At(double rpm)
    {
        if (_x.Length == 0)
        {
            return _constant;
        }

        double x = Thin(rpm);
        if (_x.Length == 1)
        {
            return Math.Max(Defaults.LeastCurveShare * _r[0], _r[0] + (_slope[0] * (x - _x[0])));
        }

        int i = 0;
        while (i < _slope.Length - 1 && x < _x[i + 1])
        {
            i++;
        }

        return Math.Max(Defaults.LeastCurveShare * _r[^1], _r[i + 1] + (_slope[i] * (x - _x[i + 1])));
    }

    /// <summary>Paste, base and pipes: what is left of it when the fans turn ever faster, °C/W.</summary>
    public double SolidCPerW { get; }

    /// <summary>From fins or liquid to the air, °C/W.</summary>
    public double FinsAt(double rpm) => Math.Max(0, At(rpm) - SolidCPerW);

    private double Thin(double rpm) => Math.Pow(Math.Max(_stillRpm, rpm), PhysicalConstants.FanExponent);
}
