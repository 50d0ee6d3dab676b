namespace Remedos.Bench.Probing;

/// <summary>
/// Takes the load away when the machine should not go on, without asking anybody: above its limit, when its temperature or its power can no
/// longer be read, and when the
/// server has not answered for long. Once it has, the load stays off until the server itself has asked for none.
/// </summary>
internal sealed class Guard(double? limitC)
{
    /// <summary>A processor that protects itself hovers at its limit; this far above it does not.</summary>
    private const double OverLimitC = 4,
        WithoutLimitC = 105;

    private const double OverForSeconds = 5,
        LostForSeconds = 10,
        UnansweredForSeconds = 120;

    private double? _coolAt,
        _chipAt,
        _powerAt,
        _answerAt;

    private volatile string? _tripped;

    /// <summary>Why the load is off; null while it may be on.</summary>
    public string? Tripped
    {
        get => _tripped;
        private set => _tripped = value;
    }

    /// <summary>Takes the load away for a reason of another's.</summary>
    /// <returns>The reason; null when it was off before.</returns>
    public string? Trip(string why) => Tripped is null ? Tripped = why : null;

    /// <summary>The server has spoken.</summary>
    /// <param name="asksForLoad">False lets the guard trust again.</param>
    public void Heard(double seconds, bool asksForLoad)
    {
        _answerAt = seconds;
        Tripped = asksForLoad ? Tripped : null;
    }

    /// <summary>Looks at a reading under load.</summary>
    /// <param name="chipC">Null when it could not be read.</param>
    /// <param name="jobLimitC">What the server knows of the limit; null for nothing.</param>
    /// <returns>Why the load must go now; null when it may stay, or has gone before.</returns>
    public string? Look(double seconds, double? chipC, double? powerW, double? jobLimitC)
    {
        double limit = Math.Min(limitC ?? double.PositiveInfinity, jobLimitC ?? double.PositiveInfinity);
        double ceiling = double.IsFinite(limit) ? limit + OverLimitC : WithoutLimitC;
        _chipAt = chipC is null ? _chipAt ?? seconds : seconds;
        _coolAt = chipC > ceiling ? _coolAt ?? seconds : seconds;
        _powerAt = powerW is null ? _powerAt : seconds;
        _answerAt ??= seconds;
        if (Tripped is not null)
        {
            return null;
        }

        return Tripped =
            seconds - _coolAt > OverForSeconds
                ? $"Load taken away: {chipC:0} °C, above "
                    + $"{(double.IsFinite(limit) ? $"the limit of {limit:0} °C" : $"{WithoutLimitC:0} °C, and no limit is known")}."
            : seconds - _chipAt > LostForSeconds ? $"Load taken away: no processor temperature for {LostForSeconds:0} s."
            : seconds - _powerAt > LostForSeconds ? $"Load taken away: no processor power for {LostForSeconds:0} s."
            : seconds - _answerAt > UnansweredForSeconds
                ? $"Load taken away: the server has not answered for {UnansweredForSeconds / 60:0} minutes."
            : null;
    }

    /// <summary>Forgets how long things have lasted; between loads nothing is looked at.</summary>
    public void Rest() => (_coolAt, _chipAt, _powerAt) = (null, null, null);
}
