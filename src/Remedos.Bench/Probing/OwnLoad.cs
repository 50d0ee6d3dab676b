using Remedos.Core.Bays;

namespace Remedos.Bench.Probing;

/// <summary>
/// Work for every processor that does nothing but warm it: whole numbers, floating-point numbers in vectors, half of each, or bursts. It
/// pins no thread and leaves
/// priorities below everyone's, so that whoever reads the sensors is never late.
/// </summary>
internal sealed class OwnLoad : IDisposable
{
    private const int RoundsAtOnce = 8192;

    private static readonly TimeSpan Slice = TimeSpan.FromMilliseconds(50);

    private readonly Thread[] _threads;
    private readonly ManualResetEventSlim _go = new(false);
    private readonly TimeProvider _clock;
    private long _rounds,
        _since;
    private volatile string _work = LoadKind.AllCore;
    private volatile bool _ended;
    private double _share;

    public OwnLoad(int threads, TimeProvider clock)
    {
        _clock = clock;
        _threads =
        [
            .. Enumerable
                .Range(0, threads)
                .Select(number => new Thread(() => Run(number))
                {
                    IsBackground = true,
                    Priority = ThreadPriority.BelowNormal,
                    Name = $"load {number}",
                }),
        ];
        foreach (Thread thread in _threads)
        {
            thread.Start();
        }
    }

    public bool IsOn => Volatile.Read(ref _share) > 0;

    /// <summary>Sets the load.</summary>
    /// <param name="share">0 idle … 1 full.</param>
    public void Set(double share, string work)
    {
        if (share > 0 && !IsOn)
        {
            Interlocked.Exchange(ref _since, _clock.GetTimestamp());
        }

        _work = work;
        Volatile.Write(ref _share, Math.Clamp(share, 0, 1));
        if (share > 0)
        {
            _go.Set();
        }
        else
        {
            _go.Reset();
        }
    }

    /// <summary>Rounds of work since it was last asked, in millions.</summary>
    public double TakeWork() => Interlocked.Exchange(ref _rounds, 0) / 1e6;

    public void Dispose()
    {
        _ended = true;
        _go.Set();
        foreach (Thread thread in _threads)
        {
            thread.Join();
        }

        _go.Dispose();
    }

    private void Run(int number)
    {
        WholeWork whole = new(number);
        VectorWork vector = new(number);
        while (!_ended)
        {
            _go.Wait();
            TimeSpan on = _clock.GetElapsedTime(Interlocked.Read(ref _since));
            double share = Volatile.Read(ref _share) * LoadKind.DutyAt(_work, on.TotalSeconds);
            // Part of each slice at work, the rest asleep.
            if (share <= 0 || on.TotalMilliseconds % Slice.TotalMilliseconds >= share * Slice.TotalMilliseconds)
            {
                Thread.Sleep(1);
                continue;
            }

            if (_work == LoadKind.Vector || (_work == LoadKind.Mixed && number % 2 == 1))
            {
                vector.Go(RoundsAtOnce);
            }
            else
            {
                whole.Go(RoundsAtOnce);
            }

            Interlocked.Add(ref _rounds, RoundsAtOnce);
        }

        GC.KeepAlive(whole.Sum + vector.Sum);
    }
}
