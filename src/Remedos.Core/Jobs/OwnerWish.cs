using System.Text.Json.Serialization;

namespace Remedos.Core.Jobs;

/// <summary>What an owner wants most of all: it decides what a good result is.</summary>
[JsonConverter(typeof(KebabEnum<OwnerWish>))]
public enum OwnerWish
{
    /// <summary>That it is not heard.</summary>
    Quiet,

    /// <summary>That it costs little.</summary>
    Cheap,

    /// <summary>That it keeps its clock.</summary>
    Fast,

    /// <summary>That it does not come back.</summary>
    Lasting,

    /// <summary>That it is good to look at.</summary>
    Looks,
}
