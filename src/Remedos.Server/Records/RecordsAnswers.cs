using Remedos.Core.Learning;

namespace Remedos.Server.Records;

/// <summary>What the workshop remembers.</summary>
/// <param name="Series">Those that wore out most first.</param>
/// <param name="League">The best over its catalogue first.</param>
/// <param name="Repairs">Those that were done most often first.</param>
/// <param name="Parts">Of what was fitted here: what came back or off most often first.</param>
/// <param name="Trials">Pastes, ways to put them on and mounting kits in each other's place.</param>
public sealed record RecordsAnswer(
    IReadOnlyList<SeriesOfRecord> Series,
    IReadOnlyList<CoolerOfRecord> League,
    BenchOfRecord Bench,
    IReadOnlyList<RepairOfRecord> Repairs,
    IReadOnlyList<PartOfRecord> Parts,
    IReadOnlyList<TrialOfRecord> Trials
);

/// <summary>How a part fares that was fitted here.</summary>
/// <param name="Fitted">In how many machines.</param>
/// <param name="TakenOff">Where it was given up before the machine left.</param>
/// <param name="CameBack">Machines that left with it and came again with what it is there to prevent.</param>
/// <param name="MonthsUntilBack">The median of those; null for none.</param>
public sealed record PartOfRecord(FittedKind Kind, string Name, int Fitted, int TakenOff, int CameBack, double? MonthsUntilBack);

/// <summary>One machine that a part went into.</summary>
/// <param name="BackJob">The visit that found it wanting; null where it did not come back.</param>
public sealed record MachineOfPart(Guid Job, string Tag, bool TakenOff, Guid? BackJob, string? BackTag, double? MonthsUntilBack);

/// <summary>What two things do in each other's place, within machines, at 100 W.</summary>
/// <param name="Change">From one to the other; negative is cooler, °C. Of a settling: from fresh to settled.</param>
/// <param name="HalfWidth">Half of its 95 % interval.</param>
/// <param name="BetweenSd">By how much machines differ in it, as a standard deviation.</param>
/// <param name="HalfLifeHours">Of a settling; null where it is not known.</param>
public sealed record TrialOfRecord(
    TrialKind Kind,
    string One,
    string Other,
    string Sentence,
    int Machines,
    double Change,
    double HalfWidth,
    double BetweenSd,
    double? HalfLifeHours
);

/// <summary>What one machine says of it.</summary>
public sealed record MachineOfTrial(Guid Job, string Tag, double Change, double HalfWidth, int Runs);

/// <summary>How a repair goes here.</summary>
/// <param name="Repairs">How often it was done.</param>
/// <param name="Logged">Of how many of them minutes are known.</param>
/// <param name="PlannedMinutes">The mean of those; null where there are none.</param>
/// <param name="TakenMinutes">Likewise, as their steps were ticked.</param>
/// <param name="Judged">Of how many it is known whether they ended the matter.</param>
/// <param name="Solved">Of those, how many did at the first try.</param>
public sealed record RepairOfRecord(
    string Act,
    string Title,
    int Repairs,
    int Logged,
    double? PlannedMinutes,
    double? TakenMinutes,
    int Judged,
    int Solved
);

/// <summary>One repair that a record is made of.</summary>
/// <param name="Solved">Whether it ended the matter; null while that is open.</param>
public sealed record MachineOfRepair(Guid Job, string Tag, int Round, double? PlannedMinutes, double? TakenMinutes, bool? Solved);

/// <summary>How long coolers of a series last here.</summary>
/// <param name="Early">Whether the records show that it fails early.</param>
/// <param name="Causes">Of what, in words: “loop nearly blocked, 5”.</param>
/// <param name="Machines">How many it was seen in.</param>
/// <param name="Failures">In how many of them it had worn out.</param>
public sealed record SeriesOfRecord(string Name, string Sentence, bool Early, IReadOnlyList<string> Causes, int Machines, int Failures);

/// <summary>What a series' record is made of.</summary>
/// <param name="Curve">The share that still works, by age; empty while there are too few for one.</param>
/// <param name="Machines">That it was seen in, the youngest first; the latest five hundred.</param>
public sealed record SeriesBehind(IReadOnlyList<CurvePoint> Curve, IReadOnlyList<MachineOfRecord> Machines);

/// <summary>A step of the curve.</summary>
/// <param name="Share">That still works beyond it, with its 95 % interval.</param>
public sealed record CurvePoint(double Months, double Share, double Low, double High);

/// <summary>A machine that a record is made of.</summary>
/// <param name="Months">Its cooler's age when it came in.</param>
/// <param name="Failed">Whether the cooler had worn out.</param>
public sealed record MachineOfRecord(Guid Job, string Tag, double Months, bool Failed);

/// <summary>What a cooler did here over what its catalogue says.</summary>
/// <param name="Factor">1 is as the catalogue says; more is worse.</param>
/// <param name="HalfWidth">Half of its 95 % interval.</param>
public sealed record CoolerOfRecord(string Name, int Machines, double Factor, double HalfWidth, string Sentence);

/// <summary>What one machine showed of a cooler.</summary>
/// <param name="Factor">Over its catalogue, before what is known beforehand is reckoned with.</param>
/// <param name="Runs">Of how many runs.</param>
public sealed record MachineOfCooler(Guid Job, string Tag, double Factor, int Runs);

/// <summary>What a cooler's figure is made of.</summary>
/// <param name="Trend">Whether it drifts over the years, in words.</param>
/// <param name="Machines">The latest first.</param>
public sealed record CoolerBehind(string Trend, IReadOnlyList<MachineOfCooler> Machines);

/// <summary>How far this bench's runs scatter though nothing was changed, °C.</summary>
/// <param name="Remounts">Made here: degrees of freedom beyond those of an average bench.</param>
/// <param name="Repeats">Likewise, of runs on one mount.</param>
public sealed record BenchOfRecord(double MountC, double WithinC, double Remounts, double Repeats, string Sentence);

/// <summary>What one machine showed of the bench.</summary>
public sealed record MachineOfBench(Guid Job, string Tag, double Remounts, double Repeats);
