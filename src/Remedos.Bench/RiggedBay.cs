using System.Globalization;
using System.Text;
using Remedos.Core.Bays;
using Remedos.Core.Machines;
using Remedos.Core.Simulation;

namespace Remedos.Bench;

/// <summary>
/// A simulated machine in a bay. Idle it lives in real time; while a run goes on, as much faster as the rig was told. It keeps every reading until the server has
/// acknowledged it, and sends again what was not.
/// </summary>
internal sealed class RiggedBay(BayLink link, MachineSpec machine, IReadOnlyList<KeyValuePair<string, double>> faults, string stream, double speed)
{
    private static readonly TimeSpan Beat = TimeSpan.FromMilliseconds(250), Patience = TimeSpan.FromSeconds(1);

    private readonly MachineOnBench _bench = new(machine, faults, machine.RoomC, seed: 1);
    private readonly Queue<(long Sequence, string Line)> _unacknowledged = new();
    private string _stream = stream;
    private long _sequence;

    public async Task RunAsync(CancellationToken cancellation)
    {
        double due = 1;
        bool running = false;
        while (!cancellation.IsCancellationRequested)
        {
            for (; due >= 1; due--)
            {
                Read();
            }

            if (_unacknowledged.Count > 0)
            {
                IngestAnswer? answer = await link.SendAsync(_stream, string.Join('\n', _unacknowledged.Select(reading => reading.Line)), cancellation);
                if (answer is null)
                {
                    await Task.Delay(Patience, cancellation);
                    continue;
                }

                while (_unacknowledged.TryPeek(out (long Sequence, string Line) first) && first.Sequence <= answer.Acknowledged)
                {
                    _unacknowledged.Dequeue();
                }

                if (answer.Acknowledged < (_unacknowledged.TryPeek(out (long Sequence, string Line) oldest) ? oldest.Sequence : _sequence + 1) - 1)
                {
                    // Somebody else has sent to this bay, and what is missing is kept no more: a new recording.
                    (_stream, _sequence) = (Guid.NewGuid().ToString("N")[..12], 0);
                    _unacknowledged.Clear();
                    continue;
                }

                running = answer.Stage is GuidedState.Idle or GuidedState.Load or GuidedState.CoolDown;
                _bench.Settings = new BenchSettings(answer.Order.Load, 0, answer.Order.FanPercent, answer.Order.PowerCapW, false, answer.Order.PumpFull);
            }

            await Task.Delay(Beat, cancellation);
            due += Beat.TotalSeconds * (running ? speed : 1);
        }
    }

    private void Read()
    {
        for (int tick = 0; tick < 10; tick++)
        {
            _bench.Tick();
        }

        BenchReading reading = _bench.Read();
        StringBuilder line = new();
        line.Append(CultureInfo.InvariantCulture, $"{{\"seq\":{++_sequence},\"t\":{reading.Seconds:0.0}");
        void Add(string role, double? value, string format)
        {
            if (value is { } there)
            {
                line.Append(",\"").Append(role).Append("\":").Append(there.ToString(format, CultureInfo.InvariantCulture));
            }
        }

        Add("cpu-temperature", reading.ChipC, "0.0");
        Add("cpu-power", reading.PowerW, "0.00");
        Add("cpu-clock", reading.ClockMHz, "0");
        Add("cpu-load", reading.LoadPercent, "0.0");
        Add("cpu-fan-speed", reading.FanRpm, "0");
        Add("ambient-temperature", reading.RoomC, "0.0");
        Add("case-air-temperature", machine.Shows.Contains("case-air") ? reading.CaseAirC : null, "0.0");
        Add("case-fan-speed", machine.Shows.Contains("case-fan") ? reading.CaseFanRpm : null, "0");
        Add("coolant-temperature", reading.CoolantC, "0.0");
        Add("tube-out-temperature", reading.TubeOutC, "0.0");
        Add("tube-return-temperature", reading.TubeReturnC, "0.0");
        Add("pump-speed", reading.PumpRpm, "0");
        Add("gpu-temperature", reading.GraphicsC, "0.0");
        Add("gpu-power", reading.GraphicsPowerW, "0.0");
        Add("throttle-flag", reading.Throttled ? 1 : 0, "0");
        Add("sound-level", reading.SoundDba, "0.0");
        Add("score", reading.Score, "0.000");
        _unacknowledged.Enqueue((_sequence, line.Append('}').ToString()));
    }
}
