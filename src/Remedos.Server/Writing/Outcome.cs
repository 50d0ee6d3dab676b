namespace Remedos.Server.Writing;

/// <summary>How far a request's change came, so that a failure says what is true.</summary>
internal sealed class Outcome
{
    private enum Stand
    {
        Untouched,
        Committing,
        Committed,
    }

    private Stand _stand;

    public void IsUntouched() => _stand = Stand.Untouched;

    public void IsCommitting() => _stand = Stand.Committing;

    public void IsCommitted() => _stand = Stand.Committed;

    /// <summary>What has become of the change, as the end of a sentence.</summary>
    public string Words =>
        _stand switch
        {
            Stand.Untouched => "nothing was changed",
            Stand.Committing => "it is not known whether the change was kept; it is shown once the page is read anew",
            _ => "the change was kept, only its answer is missing; it is shown once the page is read anew",
        };
}
