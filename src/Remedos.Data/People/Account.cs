using System.Text.Json.Serialization;
using Microsoft.AspNetCore.Identity;
using Remedos.Core;

namespace Remedos.Data.People;

/// <summary>
/// How somebody gets in: name, password, passkeys, code app. It belongs to no workshop; whoever works in several has one account and is a
/// <see cref="Person"/> in each.
/// </summary>
public sealed class Account : IdentityUser<Guid>
{
    /// <summary>SHA-256 of the last codes that were taken, the latest first: none is taken twice.</summary>
    public IReadOnlyList<string> UsedCodes { get; set; } = [];
}

/// <summary>What somebody may do in a workshop; each may do what the one before it may.</summary>
[JsonConverter(typeof(KebabEnum<Role>))]
public enum Role
{
    /// <summary>Sees everything, changes nothing.</summary>
    Reader,

    /// <summary>Does the work.</summary>
    Technician,

    /// <summary>Settings, people, archive, the log of who did what.</summary>
    Lead,
}
