using System.Text.Json.Serialization;
using Remedos.Core.Jobs;

namespace Remedos.Core.Planning;

/// <summary>What a piece of work is.</summary>
[JsonConverter(typeof(KebabEnum<WorkKind>))]
public enum WorkKind
{
    /// <summary>What the intake still lacks.</summary>
    Intake,

    /// <summary>Looking and listening before anything is moved.</summary>
    Look,

    /// <summary>A run on the bench.</summary>
    Run,

    /// <summary>A check of the diagnosis by hand.</summary>
    Check,

    /// <summary>The owner is asked what it comes to.</summary>
    Decide,

    /// <summary>Hands inside the machine.</summary>
    Repair,

    /// <summary>Paste that settles.</summary>
    Settle,
}

/// <summary>A piece of work on one machine: hands first, then nobody.</summary>
/// <param name="Title">What to do, as the Now card says it.</param>
/// <param name="HandsMinutes">For usual hands; 0 for none.</param>
/// <param name="AloneMinutes">That follow without a hand; 0 for none.</param>
/// <param name="Bay">Whether it stands in a bay for all of it.</param>
/// <param name="Extra">Whether it can be left out to keep a promise.</param>
public sealed record WorkPiece(
    WorkKind Kind,
    string Title,
    double HandsMinutes,
    double AloneMinutes = 0,
    bool Bay = false,
    bool Extra = false
)
{
    /// <summary>A run on the bench: hooked up, then by itself.</summary>
    public static WorkPiece Run(string title, bool extra = false) =>
        new(WorkKind.Run, title, WorkMinutes.RunHands, WorkMinutes.Run - WorkMinutes.RunHands, Bay: true, extra);
}

/// <summary>Why a machine is not planned.</summary>
[JsonConverter(typeof(KebabEnum<WorkHold>))]
public enum WorkHold
{
    /// <summary>Its owner has to answer.</summary>
    Owner,

    /// <summary>A part has to come.</summary>
    Part,
}
