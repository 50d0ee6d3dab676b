using Remedos.Core.Airflow;
using Remedos.Core.Diagnosis;
using Remedos.Core.Jobs;
using Remedos.Core.Machines;
using Remedos.Core.Matching;
using Remedos.Core.Money;
using Remedos.Core.Physics;
using Remedos.Core.Repair;
using Remedos.Core.Runs;

namespace Remedos.Core.Options;

/// <summary>One machine's options: what each would do, cost and rule out.</summary>
internal sealed class OptionDesk
{
    /// <summary>Repairs for which a cause has to be found: without it they are money for nothing.</summary>
    private static readonly Dictionary<string, string[]> AlsoFor = new(StringComparer.Ordinal)
    {
        ["mounting-kit"] = ["poor-contact"],
        ["tidy-cables"] = ["case-starved"],
        ["modify-case"] = ["case-starved"],
    };

    private readonly OptionFacts _facts;
    private readonly Prediction? _sound,
        _held;
    private readonly double? _measuredC;
    private readonly Candidate? _best;
    private readonly DiagnosisStand? _stand;

    public OptionDesk(OptionFacts facts)
    {
        _facts = facts;
        _stand = facts.Diagnosis is null ? null : DiagnosisStand.Of(facts.Diagnosis);
        Held = facts.Seen?.Held;
        _sound = SoundAt(Watts);
        _held = Held is null ? _sound : SoundAt(Held.Watts);
        _best = Decision.BestOf(facts.Match, _stand);
        _measuredC = facts.Seen?.ChipAtC(Held?.Watts ?? Watts, facts.Build.RoomC, Limit, _held?.TemperatureC.Value);
        NowC = _measuredC ?? _held?.TemperatureC.Value;
    }

    /// <summary>What holds it back where heat does not; null for nothing.</summary>
    public HeldBack? Held { get; }

    /// <summary>The cause that leads; null where none does.</summary>
    public CauseRow? Lead => _stand?.Lead;

    /// <summary>The chip as it is, °C.</summary>
    public double? NowC { get; }

    private double Watts => _facts.Build.Processor.SustainedPowerW;

    private double Limit => _facts.Build.Processor.TemperatureLimitC;

    /// <summary>An option; null for one that this machine cannot have at all.</summary>
    public RepairOption? Of(OptionRow row) =>
        row.Id switch
        {
            OptionRow.Leave => Leave(row),
            OptionRow.CapPower => Cap(row),
            OptionRow.Undervolt => Undervolt(row),
            OptionRow.WarrantyClaim => Claim(row),
            OptionRow.AnotherCooler => Another(row),
            OptionRow.LikeForLike => Like(row, 1),
            OptionRow.UsedPart => Like(row, Defaults.UsedPriceShare),
            _ => Repair(row),
        };

    /// <summary>One that mends a cause: as sound as its parts are, if it is that.</summary>
    private RepairOption? Repair(OptionRow row)
    {
        string act = row.Act!;
        string[] causes = AlsoFor.TryGetValue(act, out string[]? also)
            ? also
            : [.. DiagnosisTables.Causes.Where(cause => cause.Repair == act).Select(cause => cause.Id)];
        if (
            causes.All(id =>
                DiagnosisTables.CauseOf(id).CoolerKinds is { } kinds && _facts.Machine.CoolerOff is { } kind && !kinds.Contains(kind)
            )
        )
        {
            return null;
        }

        double? there = _facts.Diagnosis is { } diagnosis
            ? also is null
                ? diagnosis.Needed(act)
                : diagnosis.Causes.Where(cause => causes.Contains(cause.Id)).Select(cause => cause.Probability).DefaultIfEmpty(0).Max()
            : null;
        RepairRow repair = RepairRow.Of(act);
        string? whyNot =
            there is null && _facts.ChangedSince ? "It was changed since it was last measured: make the after run first."
            : there is null ? "Nothing was observed yet: the diagnosis has to say whether it is that."
            : !RepairSequence.IsWorthTrying(there.Value) ? $"Nothing speaks for it ({Percent(there.Value)})."
            : null;
        bool card = act == "card";
        bool lifts = Held is not null && causes.Contains(Held.Cause);
        Prediction? mended = lifts ? _sound : _held;
        Interval? temperature =
            card ? null
            : act == "airflow" && _facts.Planned is { } plan ? Planned(plan)
            : mended?.TemperatureC;
        double? works = there * repair.Settles;
        return Option(row, repair.Name, RepairSequence.QuoteOf(act, _facts.Machine, _facts.Rates)) with
        {
            WhyNot = whyNot,
            Works = works,
            TemperatureC = temperature,
            ClockLossPercent =
                card ? null
                : lifts || Held is null
                    ? temperature is { } after ? LossAt(after.Value)
                        : null
                : Held.ClockLossPercent,
            NoiseDba = card || act == "quiet-part" ? null : mended?.NoiseDba,
            FailurePoints = _facts.Cooler?.FailurePoints,
            Lasts = Survival(causes) is { } here ? $"{row.Lasts} {here}" : row.Lasts,
            Says =
                works is not { } p ? repair.Done
                : lifts && temperature is { } free
                    ? $"If it is that ({Percent(there!.Value)}), it may draw its {Watts:0} W again, at {Degrees.At(free.Value)}; "
                        + $"if not, it stays held to {Held!.Watts:0} W."
                : temperature is { } t
                    ? $"If it is that ({Percent(there!.Value)}), the chip stands at {Degrees.At(t.Value)}{Otherwise()}."
                        + (Held is null ? "" : $" Its {Held.By} goes on holding it back.")
                : card ? $"The card, not the processor ({Percent(there!.Value)})."
                : $"If it is that ({Percent(there!.Value)}); what it gains cannot be told before its cooler is among the parts.",
        };
    }

    private RepairOption Another(OptionRow row)
    {
        if (_best is not { } best)
        {
            return Option(row, "Another kind of cooler", Quote.Of([], 0, _facts.Rates)) with
            {
                WhyNot = "Nothing that fits would be cooler or quieter than what is on it.",
            };
        }

        bool cures = _stand is null or { Lead: null } || FaultEffects.OfTheCooler.Contains(_stand.Lead!.Id) || _stand.Certainty is null;
        return Of(row, best, $"Fit {best.Name}", Decision.QuoteOf(best, _facts.Machine, _facts.Rates)) with
        {
            Lasts = _facts.SeenHere(best.Name) is { } seen ? $"{row.Lasts} {seen.Sentence}" : row.Lasts,
            Says = best.Why + (cures ? "" : $" What is wrong now stays: {Lower(_stand!.Title)}."),
            Works = cures ? RepairRow.Of(RepairRow.Upgrade).Settles : null,
        };
    }

    /// <summary>The same cooler once more, new or used.</summary>
    private RepairOption? Like(OptionRow row, double priceShare)
    {
        bool used = priceShare < 1;
        if (_facts.Cooler is not { } cooler || _sound is null)
        {
            return Option(row, used ? "A used one" : "The same cooler, new", Quote.Of([], 0, _facts.Rates)) with
            {
                WhyNot = "Which cooler is on it is not noted, or not among the workshop’s parts.",
            };
        }

        CauseRow? lead = _stand is { Certainty: not null } ? _stand.Lead : null;
        bool failed =
            lead is not null && (lead.MakersPart || lead.Repair == RepairRow.ReplaceLoop) && FaultEffects.OfTheCooler.Contains(lead.Id);
        long? price = cooler.PriceMinor is { } full ? (long)Math.Round(full * priceShare) : null;
        Quote quote = Quote.Of(
            [
                new QuoteLine(used ? $"{cooler.Name}, used" : cooler.Name, price ?? 0),
                new QuoteLine("Paste", RepairRow.Of(RepairRow.Remount).PartsMinor),
            ],
            RepairPlanner.MinutesOf(_facts.Machine, RepairRow.Upgrade, new NewCooler(cooler.Name, cooler.Kind, _sound.Place)),
            _facts.Rates
        );
        return Option(row, used ? $"{cooler.Name}, used" : $"{cooler.Name}, new", quote, price) with
        {
            WhyNot =
                lead?.Repair == RepairRow.Upgrade ? "The same again would be too small as well."
                : !failed ? "What is on it has not failed, as far as is known: the same again would do the same."
                : price is null ? "What it costs is not known: add the price to the part."
                : used && cooler.IsLiquid ? "A used loop is a loop of unknown age: not fitted here."
                : null,
            Works = RepairRow.Of(RepairRow.Upgrade).Settles,
            TemperatureC = _sound.TemperatureC,
            ClockLossPercent = LossAt(_sound.TemperatureC.Value),
            NoiseDba = _sound.NoiseDba,
            FailurePoints = cooler.FailurePoints,
            Cooler = cooler.Name,
            Says = $"As the one that is on it was when it was sound: {Degrees.At(_sound.TemperatureC.Value)} with {Watts:0} W.",
            Lasts = (LikeIt() ?? Survival([])) is { } here ? $"{row.Lasts} {here}" : row.Lasts,
        };
    }

    private RepairOption Of(OptionRow row, Candidate one, string title, Quote quote) =>
        Option(row, title, quote, one.PriceMinor) with
        {
            TemperatureC = one.TemperatureC,
            ClockLossPercent = Held is null ? PhysicalConstants.ClockLossPercent(Watts + one.HeadroomW, Watts) : Held.ClockLossPercent,
            NoiseDba = one.NoiseDba,
            FailurePoints = one.FailurePoints,
            Cooler = one.Name,
        };

    /// <summary>The same cap as the decision's: there is none where it holds what it draws.</summary>
    private RepairOption Cap(OptionRow row)
    {
        DecisionWay? way = _facts.Decision.Ways.FirstOrDefault(one => one.Id == DecisionRoute.Cap);
        return Option(row, way?.Title ?? "Cap the power", RepairSequence.QuoteOf(row.Act!, _facts.Machine, _facts.Rates)) with
        {
            WhyNot =
                way is not null ? null
                : NowC is null ? "Nobody has measured what it holds."
                : "It holds what it draws: a cap would only cost speed.",
            Works = RepairRow.Of(row.Act!).Settles,
            // It is capped at what it holds at its limit, so that is where it stands.
            TemperatureC = way is null ? null : new Interval(Limit, Limit - CapBandC, Limit),
            ClockLossPercent = way?.ClockLossPercent,
            FailurePoints = _facts.Cooler?.FailurePoints,
            Says = way?.Sentence ?? "",
        };
    }

    private const double CapBandC = 3;

    private RepairOption Undervolt(OptionRow row)
    {
        double room = _facts.Build.RoomC;
        Interval? temperature = NowC is { } now
            ? new Interval(
                After(now, Defaults.UndervoltShare),
                After(now, Defaults.UndervoltMostShare),
                After(now, Defaults.UndervoltLeastShare)
            )
            : null;
        double After(double now, double less) => room + ((now - room) * (1 - less));
        return Option(row, RepairRow.Of(row.Act!).Name, RepairSequence.QuoteOf(row.Act!, _facts.Machine, _facts.Rates)) with
        {
            WhyNot =
                _facts.Build.Processor.Unlocked == false ? "This processor is locked: its voltage cannot be changed."
                : NowC is null ? "Nobody has measured how warm it is."
                : null,
            Works = null,
            TemperatureC = temperature,
            // Of what is held to its watts those that it saves go into clock: how much, nobody can say before.
            ClockLossPercent = Held is null && temperature is { } t ? LossAt(t.Value) : null,
            FailurePoints = _facts.Cooler?.FailurePoints,
            Says =
                $"About {100 * Defaults.UndervoltShare:0} % of the heat less at the same clock, as far as this chip tolerates it; it "
                + "mends nothing.",
        };
    }

    private RepairOption Claim(OptionRow row)
    {
        Warranty? warranty = _facts.Warranty;
        return Option(row, "Claim the warranty", Quote.Of([], 0, _facts.Rates)) with
        {
            WhyNot =
                warranty is null || warranty.DaysLeft(_facts.Today) is null ? "No warranty is noted."
                : !warranty.Runs(_facts.Today) ? warranty.Sentence(_facts.Today)
                : warranty.Route == Warranty.Here ? "The owner chose to have it repaired here."
                : _stand is { Lead: not null, Certainty: not null } ? null
                : "Nothing is found yet that could be claimed.",
            TemperatureC = _sound?.TemperatureC,
            ClockLossPercent = _sound is null ? null : LossAt(_sound.TemperatureC.Value),
            NoiseDba = _sound?.NoiseDba,
            FailurePoints = _facts.Cooler?.FailurePoints,
            Works = null,
            Says = "Its maker repairs or replaces it; nothing is opened here.",
        };
    }

    private RepairOption Leave(OptionRow row)
    {
        DecisionWay way = _facts.Decision.Ways.Single(one => one.Id == DecisionRoute.Leave);
        return Option(row, way.Title, Quote.Of([], 0, _facts.Rates)) with
        {
            TemperatureC = _measuredC is { } now ? new Interval(now, now, now) : _sound?.TemperatureC,
            ClockLossPercent = way.ClockLossPercent,
            NoiseDba = _measuredC is null ? _sound?.NoiseDba : null,
            FailurePoints = _facts.Cooler?.FailurePoints,
            Works =
                _stand is { IsSound: true } ? _stand.Probability
                : _stand is null ? null
                : 0,
            Says = _facts.Seen is { Run: { ThermalLimit: not null, AmbientC: { } warm } }
                ? $"Its own run reached the limit, in a room of {Degrees.At(warm)}. {way.Sentence}"
                : way.Sentence,
        };
    }

    private RepairOption Option(OptionRow row, string title, Quote quote, long? partMinor = null)
    {
        long parts = partMinor ?? (row.Act is { } act ? RepairRow.Of(act).PartsMinor : 0);
        double? share = row.Parts && parts > 0 && _facts.Build.Processor.PriceMinor is > 0 and var chip ? (double)parts / chip : null;
        return new RepairOption(
            row.Id,
            title,
            null,
            null,
            null,
            null,
            null,
            quote,
            share,
            100 * share > _facts.MostPriceSharePercent,
            row.Days,
            row.Risk,
            row.Undone,
            WarrantyWords(row),
            null,
            row.Lasts,
            row.Returns,
            ""
        );
    }

    private string? WarrantyWords(OptionRow row)
    {
        if (row.Act is not { } act || _facts.Warranty is not { } warranty || !warranty.Runs(_facts.Today))
        {
            return null;
        }

        return !warranty.IsEndedBy(RepairRow.Of(act).Opening) ? "The warranty goes on."
            : warranty.EndedBy is null ? "It may end the warranty: ask first."
            : "It ends the warranty.";
    }

    /// <summary>How long coolers like it have lasted here; null for too few.</summary>
    private string? LikeIt() => _facts.Wear is { IsEnough: true } wear ? $"{wear.Name} here: {wear.Sentence}" : null;

    /// <summary>What this workshop has seen of such machines; null for too few.</summary>
    private string? Survival(string[] causes)
    {
        if (_facts.Series is not { IsEnough: true } series)
        {
            return null;
        }

        string[] asked = causes.Length > 0 ? causes : [.. FaultEffects.OfTheCooler];
        int found = asked.Sum(cause => series.Causes.GetValueOrDefault(cause));
        return found == 0 ? null : $"Here it was found in {found} of {series.Machines} machines with {series.Name}.";
    }

    private Interval? Planned(AirPlan plan)
    {
        if (
            _sound is null
            || plan.Problem() is not null
            || new AirSolver(_facts.Build, _facts.Cooler, plan).Solve(AirLoad.Both).ProcessorC is not { } chip
        )
        {
            return null;
        }

        double half = _sound.TemperatureC.High - _sound.TemperatureC.Value;
        return new Interval(chip, chip - half, chip + half);
    }

    /// <summary>The machine as it would be, sound, with so many watts; null where its cooler is not among the parts.</summary>
    private Prediction? SoundAt(double watts)
    {
        if (_facts.Cooler is not { } cooler)
        {
            return null;
        }

        Build build = _facts.Build with { Processor = _facts.Build.Processor with { SustainedPowerW = watts } };
        return new Predictor(build).Best(cooler, Fit.Of(build, cooler));
    }

    private double LossAt(double chipC) =>
        chipC <= Limit
            ? 0
            : PhysicalConstants.ClockLossPercent(Watts * (Limit - _facts.Build.RoomC) / Math.Max(1, chipC - _facts.Build.RoomC), Watts);

    private string Otherwise() => _measuredC is { } now ? $"; if not, it stays at {Degrees.At(now)}" : "";

    private static string Percent(double p) =>
        p > 0.99 ? "over 99 %"
        : p < 0.01 ? "under 1 %"
        : $"{100 * p:0} %";

    private static string Lower(string title) => char.ToLowerInvariant(title[0]) + title[1..];
}
