using System.Text.Json.Serialization;
using Remedos.Core;
using Remedos.Core.Matching;
using Remedos.Core.Planning;
using Remedos.Data.People;

namespace Remedos.Data;

/// <summary>A workshop; every other row belongs to one.</summary>
public sealed class Workshop
{
    public Guid Id { get; init; }

    public required string Name { get; set; }

    /// <summary>Letters before a job's number on its tag.</summary>
    public required string TagPrefix { get; set; }

    public required string Currency { get; set; }

    public int NextJobNumber { get; set; }

    /// <summary>Of the next quote, and of the next bill.</summary>
    public int NextQuoteNumber { get; set; } = 1;

    /// <inheritdoc cref="NextQuoteNumber"/>
    public int NextBillNumber { get; set; } = 1;

    /// <summary>An hour's work in the currency's minor unit, without tax.</summary>
    public long LabourMinorPerHour { get; set; }

    public double TaxPercent { get; set; }

    /// <summary>Parts that cost more of the chip's price are told as too dear, %; null for no limit.</summary>
    public double? MostPriceSharePercent { get; set; }

    /// <summary>How this workshop weighs coolers; null while it goes by one of the schools.</summary>
    public School? Weights { get; set; }

    /// <summary>Its IANA name: what “today” means here.</summary>
    public required string TimeZone { get; set; }

    /// <summary>Lines under its name on what leaves it; null for none.</summary>
    public string? Address { get; set; }

    /// <summary>What it prints on: a4 or letter.</summary>
    public string PaperSize { get; set; } = "a4";

    /// <summary>In which degrees people here read temperatures; everything that is kept is in °C.</summary>
    public TemperatureUnit TemperatureUnit { get; set; }

    /// <summary>Owners are forgotten so long after their machine has left; null for never by itself.</summary>
    public int? ForgetOwnersAfterMonths { get; set; }

    /// <summary>How long a bill names who paid it, as the law of the place has it.</summary>
    public int KeepBillsYears { get; set; } = 10;

    /// <summary>How long it is kept who came and went.</summary>
    public int KeepAccessMonths { get; set; } = 12;

    /// <summary>At which time of its day the server makes a backup; null for never by itself.</summary>
    public TimeOnly? BackupAt { get; set; }

    /// <summary>How many of those are kept.</summary>
    public int BackupsKept { get; set; } = 14;

    /// <summary>When it is open; null while nobody has said.</summary>
    public OpeningHours? Open { get; set; }

    /// <summary>The picture at the head of what leaves it; null for none.</summary>
    public string? LogoSha256 { get; set; }

    /// <summary>Where somebody practises it is the workshop that the person works in; null for a workshop that is one.</summary>
    [JsonIgnore]
    public Guid? PracticeOf { get; init; }

    /// <summary>Who practises here, by the id in that workshop.</summary>
    [JsonIgnore]
    public Guid? PracticeFor { get; init; }

    /// <summary>PostgreSQL's xmin.</summary>
    public uint Version { get; init; }
}

/// <summary>Someone who works there; the "who" of every event.</summary>
public sealed class Person : IOfWorkshop
{
    public Guid Id { get; init; }

    public Guid WorkshopId { get; init; }

    public required string Name { get; set; }

    /// <summary>The workshop whose job brought the name along; null for who works here.</summary>
    public string? From { get; init; }

    public Role Role { get; set; } = Role.Technician;

    /// <summary>How this person signs in; null for whoever cannot, or comes by PIN alone.</summary>
    public Guid? AccountId { get; set; }

    /// <summary>Null for none.</summary>
    public string? PinHash { get; set; }

    /// <summary>Wrong PINs in a row.</summary>
    public int PinFailures { get; set; }

    public DateTimeOffset? PinLockedUntil { get; set; }

    /// <summary>Since when this person works here no more.</summary>
    public DateTimeOffset? LeftAt { get; set; }
}

/// <summary>One change to the workshop itself: its settings, people, bays, what it has said of columns. Appended, never altered.</summary>
public sealed class WorkshopEvent : IOfWorkshop
{
    public long Id { get; init; }

    public Guid WorkshopId { get; init; }

    public Guid PersonId { get; init; }

    public DateTimeOffset At { get; init; }

    /// <summary>settings, person, bay-added, bay-token, bay-run-started, bay-run-stopped, columns.</summary>
    public required string Kind { get; init; }

    public string? Subject { get; init; }

    public string? Before { get; init; }

    public string? After { get; init; }
}

/// <summary>One row: what this database and the file store beside it have in common, so that neither is taken for another's.</summary>
public sealed class Installation
{
    public int Id { get; init; } = 1;

    public Guid StoreId { get; init; }
}
