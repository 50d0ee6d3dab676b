namespace Remedos.Core.Practice;

/// <summary>What an owner says when the machine is put on the counter.</summary>
internal static class OwnerWords
{
    /// <summary>What an owner is sure of who is wrong, by cause.</summary>
    private static readonly Dictionary<string, string> Theories = new(StringComparer.Ordinal)
    {
        ["dust-blocked-fins"] = "It is surely full of dust",
        ["paste-aged"] = "A friend says that the paste has dried out",
        ["poor-contact"] = "Whoever built it never screwed the cooler down properly",
        ["pump-failed"] = "The pump is dead, I am told",
        ["loop-restricted"] = "The liquid must be used up by now",
        ["cooler-undersized"] = "The cooler was always too small for it",
        ["fan-failed"] = "One of the fans has given up, I think",
        ["case-starved"] = "That case never let any air in",
        ["room-hot"] = "It is only the heat in that room",
        ["background-load"] = "Something has been installed on it that works all day",
    };

    private static readonly Dictionary<string, string> Noticed = new(StringComparer.Ordinal)
    {
        ["shutdowns"] = "It switches itself off",
        ["crashes"] = "It crashes in the middle of the work",
        ["slow-all-the-time"] = "It is slow at everything",
        ["stutter-under-load"] = "It stutters when there is much to do",
        ["fans-always-loud"] = "It is loud all the time",
    };

    public static bool HasTheory(string cause) => Theories.ContainsKey(cause);

    /// <summary>The sentence on the counter: what is worst, and a theory where there is one.</summary>
    public static string Of(Witness witness, string? theory)
    {
        string? worst = Noticed.Keys.FirstOrDefault(symptom => witness.Tell(symptom)?.State == "yes");
        string noticed = worst is null ? "It runs hotter than it used to" : Noticed[worst];
        return theory is null ? noticed : $"{noticed}. {Theories[theory]}";
    }
}
