using Remedos.Core.Practice;

namespace Remedos.Server.Practice;

/// <summary>A level to choose.</summary>
public sealed record PracticeLevelAnswer(int Number, string Title, string What);

/// <summary>A case that somebody worked or works.</summary>
/// <param name="JobId">Its sheet, in practice.</param>
/// <param name="Person">Who.</param>
/// <param name="Mine">Whether it is of whoever asks.</param>
/// <param name="Alone">Whether the sheet kept its opinion to itself.</param>
/// <param name="Points">0 … 100; null while it is worked, and where it was left.</param>
/// <param name="Minutes">Of hands.</param>
public sealed record PracticeTryAnswer(
    Guid Id,
    Guid JobId,
    string Person,
    bool Mine,
    int Level,
    int Seed,
    bool Alone,
    DateTimeOffset StartedAt,
    DateTimeOffset? EndedAt,
    double? Points,
    double Minutes
);

/// <summary>The practice place.</summary>
/// <param name="Tries">Those of whoever asks; of everybody for a lead. The newest first.</param>
public sealed record PracticeAnswer(IReadOnlyList<PracticeLevelAnswer> Levels, IReadOnlyList<PracticeTryAnswer> Tries);

/// <summary>A case to be begun: of a level, with a seed where it is to be a certain one, or out of a file.</summary>
/// <param name="Alone">Whether the sheet is to keep its opinion to itself.</param>
/// <param name="File">A case file, as text.</param>
public sealed record BeginPractice(int? Level = null, int? Seed = null, bool Alone = false, string? File = null);

/// <summary>Something that can be asked, looked at or felt.</summary>
/// <param name="Kind">Whether it is asked or looked at.</param>
/// <param name="Answer">What was told, in words; null before.</param>
/// <param name="Asked">Whether it was asked: whoever was asked may not know.</param>
/// <param name="WantsCoolerOff">Whether the cooler has to be off for it.</param>
public sealed record PracticeQuestion(
    string Id,
    PracticeDeed Kind,
    string Title,
    string How,
    double Minutes,
    bool Asked,
    string? Answer,
    bool WantsCoolerOff
);

/// <summary>Something that can be done to the machine.</summary>
public sealed record PracticeRepair(string Id, string Title, double Minutes, long PartsMinor, bool Done);

/// <summary>The case at hand, as whoever works it may know it.</summary>
/// <param name="BayNumber">Where the machine stands.</param>
/// <param name="PartsMinor">Spent so far.</param>
/// <param name="Cooler">The cooler that is on it, by id: null for its own, “lifted”.</param>
/// <param name="Busy">Whether a run goes on.</param>
/// <param name="Done">What was done so far, a title each.</param>
public sealed record PracticeNow(
    Guid Id,
    Guid JobId,
    int BayNumber,
    int Level,
    string LevelTitle,
    bool Alone,
    bool Ended,
    double Speed,
    double Minutes,
    long PartsMinor,
    string? Cooler,
    bool Busy,
    IReadOnlyList<PracticeQuestion> Questions,
    IReadOnlyList<PracticeRepair> Repairs,
    IReadOnlyList<string> Done
);

/// <summary>A question to the owner or to the machine.</summary>
public sealed record AskPractice(string Evidence);

/// <summary>A repair to be done.</summary>
public sealed record RepairPractice(string Repair);

/// <summary>How many times faster than real runs are to go, 1 … 120.</summary>
public sealed record PracticeSpeed(double Speed);

/// <summary>What the owner is told: sound, mended, better or not-yet.</summary>
public sealed record EndPractice(string Told);

/// <summary>A case that was ended: how it was worked and where the information lay.</summary>
/// <param name="Acts">What was done, in order.</param>
/// <param name="Best">What the best way did.</param>
public sealed record PracticeDebrief(
    PracticeTryAnswer Try,
    string LevelTitle,
    string Machine,
    string Owner,
    string Story,
    PracticeScore Score,
    Debrief Debrief,
    IReadOnlyList<string> Acts,
    IReadOnlyList<string> Best
);
