namespace Remedos.Core.Machines;

/// <summary>How fans are steered: by which temperature, along which points.</summary>
/// <param name="Source">cpu, coolant, gpu, board, or cpu-gpu for the hotter of the two.</param>
/// <param name="Points">Temperature °C and fan %, rising; flat before the first and after the last.</param>
/// <param name="RampSeconds">How lazily the fan follows.</param>
public sealed record Steering(string Source, IReadOnlyList<SteeringPoint> Points, double RampSeconds = 8)
{
    /// <summary>What a fan can follow.</summary>
    public static readonly string[] Sources = ["cpu", "coolant", "gpu", "board", "cpu-gpu"];

    /// <summary>What is noted of fans that follow nothing; at which speed they are fixed is not.</summary>
    public const string Fixed = "fixed";

    /// <summary>Share of full speed at a temperature, 0 … 1.</summary>
    public double Share(double temperatureC)
    {
        SteeringPoint before = Points[0];
        if (temperatureC <= before.C)
        {
            return before.Percent / 100;
        }

        for (int i = 1; i < Points.Count; i++)
        {
            SteeringPoint point = Points[i];
            if (temperatureC < point.C)
            {
                return (before.Percent + ((point.Percent - before.Percent) * (temperatureC - before.C) / (point.C - before.C))) / 100;
            }

            before = point;
        }

        return before.Percent / 100;
    }
}

/// <summary>One point of a fan's steering.</summary>
public sealed record SteeringPoint(double C, double Percent);
