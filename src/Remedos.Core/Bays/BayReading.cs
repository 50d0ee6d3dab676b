using Remedos.Core.Logs;

namespace Remedos.Core.Bays;

/// <summary>A channel of a bay: a role, and which one of several, from 0 (cores).</summary>
public readonly record struct BayChannel(ChannelRole Role, int Index = 0)
{
    /// <summary>As columns of a log are named: the role, with a number from the second channel of it on.</summary>
    public string Name => Index == 0 ? Role.Name() : $"{Role.Name()} {Index + 1}";
}

/// <summary>One reading of a machine under test.</summary>
/// <param name="Sequence">From 1, one more each reading.</param>
/// <param name="Seconds">On the sender's own clock, since it began; never runs backwards.</param>
/// <param name="Values">In the role's unit; what was not read is not there.</param>
public sealed record BayReading(long Sequence, double Seconds, IReadOnlyDictionary<BayChannel, double> Values)
{
    /// <summary>What stands for the chip, °C: the package, else its hottest core, else the control reading; null for none.</summary>
    public double? ChipC
    {
        get
        {
            if (Values.TryGetValue(new(ChannelRole.CpuTemperature), out double package))
            {
                return package;
            }

            double hottest = double.NegativeInfinity;
            foreach ((BayChannel channel, double value) in Values)
            {
                hottest = channel.Role == ChannelRole.CoreTemperature ? Math.Max(hottest, value) : hottest;
            }

            return double.IsFinite(hottest) ? hottest : Of(ChannelRole.CpuControlTemperature);
        }
    }

    /// <summary>The first channel of a role; null where the probe does not send one.</summary>
    public double? Of(ChannelRole role) => Values.TryGetValue(new(role), out double value) ? value : null;
}

/// <summary>What a sender tells of itself, once.</summary>
/// <param name="Machine">In its own words.</param>
/// <param name="Obeys">What of an order it can do by itself; the rest wants a hand.</param>
/// <param name="Missing">Roles that it looked for and did not find.</param>
/// <param name="Simulated">Whether it is an invented machine, which takes <see cref="BenchHands"/>.</param>
public sealed record BayHello(string? Machine, IReadOnlyList<string> Obeys, IReadOnlyList<string> Missing, bool Simulated = false)
{
    /// <summary>What a probe can be told to do.</summary>
    public const string Load = "load",
        Fans = "fans",
        Cap = "cap",
        Pump = "pump",
        Panel = "panel";

    /// <summary>All of them.</summary>
    public static IReadOnlyList<string> AllObeys { get; } = [Load, Fans, Cap, Pump, Panel];

    /// <summary>Whether this probe can do it.</summary>
    public bool CanDo(string what) => Obeys.Contains(what);
}
