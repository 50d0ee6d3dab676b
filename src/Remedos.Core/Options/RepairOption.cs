using Remedos.Core.Machines;
using Remedos.Core.Matching;
using Remedos.Core.Money;
using Remedos.Core.Runs;

namespace Remedos.Core.Options;

/// <summary>Something that could be done, with all that speaks for and against it. Money in the currency's minor unit.</summary>
/// <param name="WhyNot">Why it is not open here; null for one that is.</param>
/// <param name="Works">How probably it ends the matter; null where nobody can say.</param>
/// <param name="TemperatureC">The chip at its sustained watts if it works; null where it cannot be told.</param>
/// <param name="ClockLossPercent">What of the clock is given up then; null where it cannot be told.</param>
/// <param name="NoiseDba">dB(A) at 1 m then; null where it cannot be told.</param>
/// <param name="PriceShare">Its parts, of what the chip costs; null where a price is not known or no part is bought.</param>
/// <param name="TooDear">Whether that is beyond the workshop's limit.</param>
/// <param name="Warranty">What a warranty that runs says to it; null without one.</param>
/// <param name="FailurePoints">Of the cooler that is on it then; null where that is not known.</param>
/// <param name="Says">What it would do, in a sentence.</param>
public sealed record RepairOption(
    string Id,
    string Title,
    string? WhyNot,
    double? Works,
    Interval? TemperatureC,
    double? ClockLossPercent,
    double? NoiseDba,
    Quote Quote,
    double? PriceShare,
    bool TooDear,
    double Days,
    string Risk,
    string? Undone,
    string? Warranty,
    int? FailurePoints,
    string Lasts,
    bool Returns,
    string Says
)
{
    /// <summary>Half of the noise's interval, dB(A); null where no noise is told.</summary>
    public double? NoiseHalfDba => NoiseDba is null ? null : Defaults.NoiseHalfDba;

    /// <summary>The cooler that goes on, by name; null for none.</summary>
    public string? Cooler { get; init; }
}

/// <summary>All options of a machine.</summary>
/// <param name="Open">Those that diagnosis and machine allow, in the order of the owner's wish.</param>
/// <param name="Closed">The others, each with why not.</param>
/// <param name="Advised">Id of the one that is advised.</param>
/// <param name="NowC">The chip as it is, °C: by its own run, else as expected; null where neither is known.</param>
/// <param name="Held">What holds it back as it is where heat does not; null for nothing.</param>
/// <param name="CardW">What its card draws beside it in all of this, W; 0 without one.</param>
public sealed record OptionAnswer(
    IReadOnlyList<RepairOption> Open,
    IReadOnlyList<RepairOption> Closed,
    string Advised,
    string Sentence,
    double? NowC,
    HeldBack? Held,
    double CardW
);
