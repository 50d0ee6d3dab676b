namespace Remedos.Data.Planning;

/// <summary>What is different on one day from what is usual; there only where something is.</summary>
public sealed class WorkDay : IOfWorkshop
{
    public Guid WorkshopId { get; init; }

    /// <summary>On the workshop's calendar.</summary>
    public DateOnly Day { get; init; }

    /// <summary>Who is not here.</summary>
    public List<Guid> Away { get; init; } = [];

    /// <summary>Bays that are not used, by their numbers.</summary>
    public List<int> BaysOut { get; init; } = [];

    /// <summary>Whether it is closed all day.</summary>
    public bool Closed { get; set; }

    /// <summary>Other hours than usual; null for the usual ones.</summary>
    public TimeOnly? From { get; set; }

    /// <inheritdoc cref="From"/>
    public TimeOnly? To { get; set; }
}
