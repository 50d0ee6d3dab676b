using Remedos.Core.Physics;

namespace Remedos.Core.Simulation;

/// <summary>One row of a simulated log, as the sensors read it.</summary>
public sealed record BenchSample(
    double Seconds,
    double ChipC,
    double PowerW,
    double ClockMHz,
    double LoadPercent,
    double FanRpm,
    double RoomC,
    double CaseAirC,
    bool Throttled
);

/// <summary>How the chip's temperature is read.</summary>
/// <param name="StepC">Readings are rounded to this, °C.</param>
/// <param name="NoiseC">Standard deviation of white noise, °C.</param>
/// <param name="WanderC">Standard deviation of slow wander (some 40 s), °C.</param>
public sealed record ChipSensor(double StepC = 1, double NoiseC = 0.3, double WanderC = 0);

/// <summary>Puts a simulated machine through a protocol: ticks of 0.1 s, a row a second.</summary>
public static class BenchRun
{
    private const double TickSeconds = 0.1;
    private const int TicksPerRow = 10;

    /// <summary>Simulates one run.</summary>
    /// <param name="machine">The machine, faults included in its resistances.</param>
    /// <param name="protocol">Idle, load, cool-down …</param>
    /// <param name="roomC">The room at the start; it drifts by some tenths.</param>
    /// <param name="fixedFanShare">0…1 for fans held at a fixed speed, null for the automatic curve.</param>
    /// <param name="sensor">How the chip is read; whole degrees by default.</param>
    /// <param name="seed">Equal inputs with an equal seed give equal samples on any machine.</param>
    public static IReadOnlyList<BenchSample> Simulate(
        SimulatedMachine machine,
        IReadOnlyList<ProtocolStep> protocol,
        double roomC,
        double? fixedFanShare,
        int seed,
        ChipSensor? sensor = null
    )
    {
        sensor ??= new ChipSensor();
        double wander = 0;
        Random random = new(seed);
        Dictionary<int, ThermalNetwork> networks = [];
        double fan = fixedFanShare ?? SimulatedMachine.LowestFanShare;
        ThermalNetwork Network() =>
            networks.TryGetValue((int)Math.Round(fan * 100), out ThermalNetwork? known)
                ? known
                : networks[(int)Math.Round(fan * 100)] = machine.Network(Math.Round(fan, 2));

        double[] rises = Network().Rest([machine.IdleW, 0, 0, machine.BoardW]);
        double throttle = 1,
            boostLeft = machine.BoostSeconds,
            fluctuation = 0,
            burst = 0,
            powerSum = 0;
        List<BenchSample> samples = [];
        double total = protocol.Sum(step => step.Seconds),
            stepEnds = protocol[0].Seconds;
        int step = 0,
            ticks = (int)Math.Round(total / TickSeconds);
        for (int tick = 0; tick <= ticks; tick++)
        {
            double now = tick * TickSeconds;
            while (now >= stepEnds && step + 1 < protocol.Count)
            {
                stepEnds += protocol[++step].Seconds;
            }

            double load = protocol[step].Load;
            double room = roomC + (0.3 * Math.Sin(now / 700));
            double die = rises[0] + room;
            burst =
                load > 0 ? 0
                : burst > 0 ? burst - TickSeconds
                : random.NextDouble() < 0.0008 ? 1 + (3 * random.NextDouble())
                : 0;
            fluctuation += (TickSeconds / 2 * -fluctuation) + (0.004 * Gauss(random));
            bool boosting = load > 0 && boostLeft > 0;
            boostLeft = load > 0 ? boostLeft - TickSeconds : machine.BoostSeconds;
            double wanted =
                load > 0 ? load * (boosting ? machine.BoostW : machine.LoadW)
                : burst > 0 ? 0.35 * machine.LoadW
                : machine.IdleW;
            throttle = Math.Clamp(
                throttle + (TickSeconds * 0.01 * (die > machine.LimitC ? machine.LimitC - die : Math.Min(machine.LimitC - die, 0.6))),
                0.3,
                1
            );
            double power = wanted * (1 + fluctuation + (0.0006 * (die - 60))) * (load > 0 ? throttle : 1);
            powerSum += power;

            if (fixedFanShare is null)
            {
                double target = Math.Clamp(
                    SimulatedMachine.LowestFanShare
                        + ((1 - SimulatedMachine.LowestFanShare) * (die - machine.FanFromC) / (machine.FanFullC - machine.FanFromC)),
                    SimulatedMachine.LowestFanShare,
                    1
                );
                fan += (target - fan) * TickSeconds / 8;
            }

            if (tick % TicksPerRow == 0)
            {
                // Clock follows the cube root of power, as voltage falls with it.
                double clock =
                    load > 0
                        ? machine.FullClockMHz * Math.Cbrt((boosting ? machine.BoostW / machine.LoadW : 1) * throttle)
                        : 0.42 * machine.FullClockMHz;
                wander = (0.975 * wander) + (sensor.WanderC > 0 ? 0.222 * sensor.WanderC * Gauss(random) : 0);
                samples.Add(
                    new BenchSample(
                        Math.Max(0, now + (tick == 0 ? 0 : 0.012 * Gauss(random))),
                        Math.Round((die + wander + (sensor.NoiseC * Gauss(random))) / sensor.StepC, MidpointRounding.AwayFromZero)
                            * sensor.StepC,
                        powerSum / (tick == 0 ? 1 : TicksPerRow),
                        clock,
                        load > 0 ? 100
                            : burst > 0 ? 35
                            : 1 + (4 * random.NextDouble()),
                        (machine.FullFanRpm * fan) + (5 * Gauss(random)),
                        room + (0.05 * Gauss(random)),
                        rises[3] + room,
                        load > 0 && throttle < 0.995
                    )
                );
                powerSum = 0;
            }

            Network().Advance(rises, [power, 0, 0, machine.BoardW], TickSeconds);
        }

        return samples;
    }

    private static double Gauss(Random random) =>
        Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());
}
