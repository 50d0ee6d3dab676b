namespace Remedos.Core.Matching;

/// <summary>A cooler in a place of a build, with all that its prediction asks for again and again.</summary>
internal readonly struct Mounted
{
    /// <summary>A fan's sound power goes with its speed to the fifth: 50·log₁₀ of the ratio.</summary>
    private const double NoiseExponent = 5;

    private readonly double[] _wPerK;

    private readonly double _fansEnergy, _caseEnergy;

    /// <summary>Mounts a cooler.</summary>
    /// <param name="place">Where its radiator hangs; null for an air cooler.</param>
    public Mounted(CoolerPart cooler, string? place, BuildAir air)
    {
        (Cooler, Curve) = (cooler, new CoolerCurve(cooler));
        Exhausts = place is not null && !Fit.Inward.Contains(place);
        BreathesRoom = place is not null && !Exhausts;
        _wPerK = air.WPerK(cooler, place);
        _caseEnergy = air.NoiseEnergy(place);
        foreach (CoolerFan fan in cooler.Fans ?? [])
        {
            MaxRpm = Math.Max(MaxRpm, fan.MaxRpm);
            _fansEnergy += fan.NoiseAtMaxDba > 0 ? Math.Pow(10, fan.NoiseAtMaxDba / 10) : 0;
        }
    }

    public CoolerPart Cooler { get; }

    public CoolerCurve Curve { get; }

    /// <summary>0 without fans.</summary>
    public double MaxRpm { get; }

    /// <summary>Whether its heat leaves the case at once.</summary>
    public bool Exhausts { get; }

    public bool BreathesRoom { get; }

    /// <summary>Conductance from the case's air to the room, W/K.</summary>
    public double WPerK(double rpm) => BuildAir.Between(_wPerK, MaxRpm > 0 ? rpm / MaxRpm : 1);

    /// <summary>Case fans and its own together, dB(A) at 1 m.</summary>
    public double NoiseDba(double rpm)
    {
        double energy = _caseEnergy + (MaxRpm > 0 ? _fansEnergy * Math.Pow(rpm / MaxRpm, NoiseExponent) : 0);
        return energy <= 1 ? 0 : 10 * Math.Log10(energy);
    }

    /// <summary>The fastest that is not louder than this, rpm.</summary>
    public double Bearable(double dba)
    {
        double left = Math.Pow(10, dba / 10) - _caseEnergy;
        return MaxRpm == 0 || left >= _fansEnergy ? MaxRpm : left <= 0 ? 0 : MaxRpm * Math.Pow(left / _fansEnergy, 1 / NoiseExponent);
    }
}
