using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Remedos.Data.People;

/// <summary>Who gets in. Accounts and sign-ins are of no one workshop: they are looked up before any is known.</summary>
internal static class PeopleTables
{
    private const int Sha256Letters = 64,
        KeyLetters = 128;

    public static void Configure(ModelBuilder model)
    {
        // The framework's own tables, said in full: what it sets by itself depends on whether it finds a server's settings.
        model.Entity<Account>(account =>
        {
            account.ToTable("accounts");
            account.Property(a => a.PhoneNumber).HasMaxLength(256);
        });
        model.Entity<IdentityUserClaim<Guid>>().ToTable("account_claims");
        model.Entity<IdentityUserLogin<Guid>>(login =>
        {
            login.ToTable("account_logins");
            login.Property(l => l.LoginProvider).HasMaxLength(KeyLetters);
            login.Property(l => l.ProviderKey).HasMaxLength(KeyLetters);
        });
        model.Entity<IdentityUserToken<Guid>>(token =>
        {
            token.ToTable("account_tokens");
            token.Property(t => t.LoginProvider).HasMaxLength(KeyLetters);
            token.Property(t => t.Name).HasMaxLength(KeyLetters);
        });
        model.Entity<IdentityUserPasskey<Guid>>(passkey =>
        {
            passkey.ToTable("account_passkeys");
            passkey.HasKey(p => p.CredentialId);
            passkey.Property(p => p.CredentialId).HasMaxLength(1024);
            passkey.OwnsOne(p => p.Data, data => data.ToJson());
            passkey.HasOne<Account>().WithMany().HasForeignKey(p => p.UserId);
        });
        model.Entity<Person>(Configure);
        model.Entity<SignIn>(Configure);
        model.Entity<Invitation>(Configure);
        model.Entity<AccessEvent>(Configure);
    }

    private static void Configure(EntityTypeBuilder<Person> person)
    {
        person.HasKey(p => new { p.WorkshopId, p.Id });
        person.Property(p => p.Name).HasMaxLength(200);
        person.Property(p => p.From).HasMaxLength(200);
        person
            .Property(p => p.Role)
            .HasConversion(role => role.ToString().ToLowerInvariant(), kept => Enum.Parse<Role>(kept, ignoreCase: true))
            .HasMaxLength(20);
        person.HasOne<Workshop>().WithMany().HasForeignKey(p => p.WorkshopId);
        person.HasOne<Account>().WithMany().HasForeignKey(p => p.AccountId);
        person.HasIndex(p => p.Id);
        person.HasIndex(p => new { p.WorkshopId, p.AccountId }).IsUnique();
        person.ToTable(table => table.HasCheckConstraint("ck_people_role", "role IN ('reader', 'technician', 'lead')"));
    }

    private static void Configure(EntityTypeBuilder<SignIn> signIn)
    {
        signIn.HasKey(s => s.Id);
        signIn.Property(s => s.TokenSha256).HasMaxLength(Sha256Letters);
        signIn.Property(s => s.Way).HasMaxLength(20);
        signIn.Property(s => s.Device).HasMaxLength(100);
        signIn.Property(s => s.Address).HasMaxLength(60);
        signIn.HasIndex(s => s.TokenSha256).IsUnique();
        signIn.HasIndex(s => s.AccountId);
        signIn.HasIndex(s => new { s.WorkshopId, s.PersonId });
        signIn.HasOne<Account>().WithMany().HasForeignKey(s => s.AccountId);
        // No foreign key to people: those are spread by workshop, and a sign-in may change its workshop. It is joined to them when it is
        // used.
    }

    private static void Configure(EntityTypeBuilder<Invitation> invitation)
    {
        invitation.HasKey(i => new { i.WorkshopId, i.Id });
        invitation.Property(i => i.TokenSha256).HasMaxLength(Sha256Letters);
        invitation.HasIndex(i => new { i.TokenSha256, i.WorkshopId }).IsUnique();
        invitation.HasOne<Person>().WithMany().HasForeignKey(i => new { i.WorkshopId, i.PersonId });
    }

    private static void Configure(EntityTypeBuilder<AccessEvent> access)
    {
        access.HasKey(e => new { e.WorkshopId, e.Id });
        access.Property(e => e.Id).UseIdentityAlwaysColumn();
        access.Property(e => e.Kind).HasMaxLength(40);
        access.Property(e => e.Subject).HasMaxLength(200);
        access.Property(e => e.Address).HasMaxLength(60);
        access.HasIndex(e => new { e.WorkshopId, e.At });
        access.HasOne<Workshop>().WithMany().HasForeignKey(e => e.WorkshopId);
        access.HasOne<Person>().WithMany().HasForeignKey(e => new { e.WorkshopId, e.PersonId });
    }
}
