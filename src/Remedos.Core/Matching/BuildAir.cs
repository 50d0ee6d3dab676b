using System.Collections.Concurrent;
using Remedos.Core.Airflow;

namespace Remedos.Core.Matching;

/// <summary>
/// The air of a build's case with a cooler in it: how much heat a degree carries to the room, W/K. It hangs on where a radiator is and how fast its fans turn, and on nothing else of the cooler; so it is solved at three speeds for
/// each place and size, and read off between them.
/// </summary>
internal sealed class BuildAir(Build build)
{
    /// <summary>Heat of board, memory and supply, W.</summary>
    public const double BoardW = 30;

    /// <summary>Through the metal: 3 W/K into it and half of that out of it.</summary>
    public const double ThroughMetalWPerK = 1;

    private static readonly double[] Shares = [0.3, 0.65, 1];

    private readonly ConcurrentDictionary<(string? Place, int Fans, double SizeMm, double MaxRpm), double[]> _known = [];

    private readonly ConcurrentDictionary<string, double> _noise = [];

    /// <summary>Conductance from the case's air to the room at three speeds of the radiator's fans; see <see cref="Between"/>.</summary>
    /// <param name="place">Where the radiator hangs; null for an air cooler.</param>
    public double[] WPerK(CoolerPart cooler, string? place)
    {
        // Fans that differ by less than a hundred turns are taken for alike, so that few cases have to be solved.
        IReadOnlyList<CoolerFan> fans = place is null ? [] : cooler.Fans ?? [];
        (string?, int, double, double) key = fans.Count == 0 ? (place, 0, 0, 0) : (place, fans.Count, fans.Max(fan => fan.SizeMm), 100 * Math.Round(fans.Max(fan => fan.MaxRpm) / 100));
        if (!_known.TryGetValue(key, out double[]? at))
        {
            at = [.. Shares.Select(one => Solve(key, one))];
            _known[key] = at;
        }

        return at;
    }

    /// <summary>Read off between the three speeds.</summary>
    /// <param name="share">Of full speed.</param>
    public static double Between(double[] at, double share)
    {
        int i = share < Shares[1] ? 0 : 1;
        return at[i] + (Math.Clamp((share - Shares[i]) / (Shares[i + 1] - Shares[i]), 0, 1) * (at[i + 1] - at[i]));
    }

    private double Solve((string? Place, int Fans, double SizeMm, double MaxRpm) radiator, double share)
    {
        List<CaseFan> fans = [];
        List<double> shares = [];
        foreach (BuildFan fan in (build.Case?.Fans ?? []).Where(fan => fan.Place != radiator.Place))
        {
            fans.Add(FanLaw.Of(fan.Place, fan.Direction == "in", fan.SizeMm, fan.Rpm));
            shares.Add(1);
        }

        // A radiator's fans take the place of those that hang there, and blow through the fins.
        for (int i = 0; i < radiator.Fans; i++)
        {
            fans.Add(FanLaw.Of(radiator.Place!, Fit.Inward.Contains(radiator.Place), radiator.SizeMm, radiator.MaxRpm, throughFins: true));
            shares.Add(share);
        }

        fans.Add(FanLaw.Supply);
        shares.Add(FanLaw.SupplyShare);
        return CaseAir.ConductanceWPerK(CaseAir.Solve(fans, [.. shares], FanLaw.Leaks).ExchangeM3PerH) + ThroughMetalWPerK;
    }

    /// <summary>What is heard of the case without the cooler, as 10^(dB(A)/10); the fans that a radiator replaces are gone.</summary>
    public double NoiseEnergy(string? place)
    {
        if (!_noise.TryGetValue(place ?? "", out double energy))
        {
            energy = (build.Case?.Fans ?? []).Where(fan => fan.Place != place && fan.Rpm > 0)
                .Sum(fan => Math.Pow(10, FanLaw.Dba(fan.SizeMm, fan.Rpm) / 10));
            _noise[place ?? ""] = energy;
        }

        return energy;
    }
}
