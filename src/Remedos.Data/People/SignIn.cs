namespace Remedos.Data.People;

/// <summary>A device that is signed in, until it is ended. Its cookie holds a token of which only the hash stands here.</summary>
public sealed class SignIn
{
    public Guid Id { get; init; }

    public required string TokenSha256 { get; init; }

    /// <summary>Who signed the device in.</summary>
    public Guid AccountId { get; init; }

    public Guid WorkshopId { get; set; }

    /// <summary>Who works at it now.</summary>
    public Guid PersonId { get; set; }

    /// <summary>Whether whoever works at it came by PIN since the account was last proved.</summary>
    public bool ByPin { get; set; }

    /// <summary>password, passkey, invitation, or touch in the demo.</summary>
    public required string Way { get; init; }

    /// <summary>Browser and system in a few words.</summary>
    public required string Device { get; init; }

    /// <summary>The address it came from.</summary>
    public required string Address { get; init; }

    public DateTimeOffset At { get; init; }

    public DateTimeOffset SeenAt { get; set; }

    /// <summary>When the account was last proved on it, by password, passkey or code.</summary>
    public DateTimeOffset ProvedAt { get; set; }

    public DateTimeOffset? EndedAt { get; set; }
}

/// <summary>A link by which a person makes or renews the way in; used once.</summary>
public sealed class Invitation : IOfWorkshop
{
    public Guid WorkshopId { get; init; }

    public Guid Id { get; init; }

    public Guid PersonId { get; init; }

    public required string TokenSha256 { get; init; }

    public DateTimeOffset MadeAt { get; init; }

    public DateTimeOffset ExpiresAt { get; init; }

    public DateTimeOffset? UsedAt { get; set; }
}

/// <summary>Somebody came, was refused, left, or took something out. Appended; removed when its time is over.</summary>
public sealed class AccessEvent : IOfWorkshop
{
    public long Id { get; init; }

    public Guid WorkshopId { get; init; }

    /// <summary>Whose account or PIN it was tried with; null where nobody is known.</summary>
    public Guid? PersonId { get; init; }

    public DateTimeOffset At { get; init; }

    /// <summary>One of <see cref="AccessKinds"/>.</summary>
    public required string Kind { get; init; }

    /// <summary>What it was about: a way in, a bay, a file.</summary>
    public string? Subject { get; init; }

    public string? Address { get; init; }
}

/// <summary>What is told of who came and went.</summary>
public static class AccessKinds
{
    public const string SignedIn = "signed-in",
        SignInRefused = "sign-in-refused",
        SignedOut = "signed-out",
        TookOver = "took-over",
        PinRefused = "pin-refused",
        SignInEnded = "sign-in-ended",
        WayInChanged = "way-in-changed",
        TokenRefused = "token-refused",
        Exported = "exported",
        OwnerErased = "owner-erased";
}
