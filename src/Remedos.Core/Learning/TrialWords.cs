namespace Remedos.Core.Learning;

/// <summary>Says what machines show of two things that were tried in each other's place.</summary>
public static class TrialWords
{
    /// <summary>“Tallow Grey 5 runs 1.4 ± 0.9 °C cooler than Chalk 2 at 100 W, in 3 machines.”</summary>
    /// <param name="change">From one to the other, °C at 100 W.</param>
    /// <param name="halfLifeHours">Of a settling; null where it is not known.</param>
    public static string Of(TrialKind kind, string one, string other, Pooled change, double? halfLifeHours)
    {
        string machines = change.Machines == 1 ? "in one machine" : $"in {change.Machines} machines",
            size = $"{Degrees.Span(Math.Abs(change.Mean)):0.0} ± {Degrees.By(change.HalfWidth, "0.0")}";
        bool told = Math.Abs(change.Mean) > change.HalfWidth;
        if (kind == TrialKind.Settling)
        {
            string half = halfLifeHours is { } hours ? $", half of it after {Span(hours)}" : "";
            return !told ? $"{one} shows no settling that could be told at 100 W ({size}), {machines}."
                : change.Mean < 0 ? $"{one} gains {size} at 100 W as it settles{half}, {machines}."
                : $"{one} loses {size} at 100 W with time{half}, {machines}.";
        }

        (string better, string worse) = change.Mean <= 0 ? (other, one) : (one, other);
        return told
            ? $"{Begins(better)} runs {size} cooler than {worse} at 100 W, {machines}."
            : $"{Begins(better)} and {worse} cannot be told apart: {size} at 100 W, {machines}.";
    }

    private static string Begins(string name) => char.ToUpperInvariant(name[0]) + name[1..];

    private static string Span(double hours) => hours < 36 ? $"{hours:0} hours" : $"{hours / 24:0} days";
}
