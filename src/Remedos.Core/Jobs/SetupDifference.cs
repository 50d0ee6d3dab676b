namespace Remedos.Core.Jobs;

/// <summary>What was changed on purpose to make a setup, against the one it is like; null for what stayed.</summary>
public sealed class SetupDifference
{
    /// <summary>Its name, from the workshop's parts or any words.</summary>
    public string? Cooler { get; set; }

    /// <summary>One of the cooler kinds of a run's conditions.</summary>
    public string? CoolerKind { get; set; }

    /// <summary>The paste that is on it.</summary>
    public string? Paste { get; set; }

    /// <summary>How it was put on.</summary>
    public string? PasteMethod { get; set; }

    /// <summary>The mounting kit that holds it.</summary>
    public string? MountingKit { get; set; }

    /// <summary>The cooler's fans.</summary>
    public string? Fans { get; set; }

    /// <summary>What steers fans and pump.</summary>
    public string? Steering { get; set; }

    /// <summary>Case fans, filters, panel.</summary>
    public string? CaseAir { get; set; }

    /// <summary>Firmware locks and caps.</summary>
    public string? Settings { get; set; }

    /// <summary>The card's paste and pads.</summary>
    public string? CardPaste { get; set; }

    /// <summary>What else changed that was not meant to: display, memory, driver.</summary>
    public string? Changed { get; set; }

    /// <summary>This over what it is like: what stayed is taken from there.</summary>
    public SetupDifference Over(SetupDifference? like) =>
        like is null
            ? this
            : new SetupDifference
            {
                Cooler = Cooler ?? (CoolerKind is not null && CoolerKind != like.CoolerKind ? null : like.Cooler),
                CoolerKind = CoolerKind ?? like.CoolerKind,
                Paste = Paste ?? like.Paste,
                PasteMethod = PasteMethod ?? like.PasteMethod,
                MountingKit = MountingKit ?? like.MountingKit,
                Fans = Fans ?? like.Fans,
                Steering = Steering ?? like.Steering,
                CaseAir = CaseAir ?? like.CaseAir,
                Settings = Settings ?? like.Settings,
                CardPaste = CardPaste ?? like.CardPaste,
                Changed = Changed ?? like.Changed,
            };
}

/// <summary>Kinds of setup, by what was changed to make it.</summary>
public static class SetupKind
{
    /// <summary>In what a setup differs from the one before it.</summary>
    public const string AsItCame = "as-it-came",
        Repair = "repair",
        Cooler = "other-cooler",
        Paste = "other-paste",
        Fans = "fans",
        Setting = "setting",
        Card = "card";

    /// <summary>All of them.</summary>
    public static readonly string[] All = [AsItCame, Repair, Cooler, Paste, Fans, Setting, Card];

    /// <summary>Kinds for which the cooler comes off and goes on again.</summary>
    public static readonly string[] Lifts = [Repair, Cooler, Paste];

    /// <summary>As the end of “Setup 3 …” where no difference has a name.</summary>
    public static string Words(string kind) =>
        kind switch
        {
            AsItCame => "as it came",
            Cooler => "another cooler",
            Paste => "other paste",
            Fans => "fans re-plugged",
            Setting => "setting changed",
            Card => "the card’s cooler",
            _ => "after the repair",
        };

    /// <summary>The name of a setup: what was changed, else how it came about.</summary>
    public static string Title(string kind, SetupDifference difference) =>
        kind switch
        {
            AsItCame => Words(kind),
            Cooler => difference.Cooler ?? Words(kind),
            Paste => difference.Paste ?? Words(kind),
            Fans => difference.Fans ?? difference.Steering ?? difference.CaseAir ?? Words(kind),
            Setting => difference.Settings ?? Words(kind),
            Card => difference.CardPaste is { } paste ? $"card: {paste}" : Words(kind),
            _ => difference.Cooler ?? (difference.Paste is { } fresh ? $"repaired, {fresh}" : Words(kind)),
        };
}
