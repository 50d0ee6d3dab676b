namespace Remedos.Bench.Probing;

/// <summary>
/// Stands beside the loop that reads the sensors, on a timer of its own: when that hangs, for a sensor that does not answer, nobody would
/// look at the temperature, and the load
/// is taken away.
/// </summary>
internal sealed class Watch : IAsyncDisposable
{
    /// <summary>Longer than any beat and any hitch of a busy machine.</summary>
    internal static readonly TimeSpan Patience = TimeSpan.FromSeconds(10);

    private static readonly TimeSpan Look = TimeSpan.FromSeconds(1);

    private readonly OwnLoad _load;
    private readonly Guard _guard;
    private readonly TimeProvider _clock;
    private readonly Action<string> _say;
    private readonly ITimer _timer;
    private long _beat;

    public Watch(OwnLoad load, Guard guard, TimeProvider clock, Action<string> say)
    {
        (_load, _guard, _clock, _say) = (load, guard, clock, say);
        _beat = clock.GetTimestamp();
        _timer = clock.CreateTimer(_ => LookAtIt(), null, Look, Look);
    }

    /// <summary>The loop goes round.</summary>
    public void Beat() => Interlocked.Exchange(ref _beat, _clock.GetTimestamp());

    public ValueTask DisposeAsync() => _timer.DisposeAsync();

    private void LookAtIt()
    {
        if (
            _load.IsOn
            && _clock.GetElapsedTime(Interlocked.Read(ref _beat)) > Patience
            && _guard.Trip($"Load taken away: the sensors have not answered for {Patience.TotalSeconds:0} s.") is { } why
        )
        {
            _load.Set(0, Core.Bays.LoadKind.AllCore);
            _say(why);
        }
    }
}
