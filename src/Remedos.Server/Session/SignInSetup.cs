using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.DependencyInjection.Extensions;
using Remedos.Data;
using Remedos.Data.People;
using Remedos.Server.Hosting;
using Remedos.Server.People;

namespace Remedos.Server.Session;

/// <summary>How people sign in here; see this folder's README.</summary>
internal static class SignInSetup
{
    public static void AddSignIn(this IServiceCollection services, ServingAt serving)
    {
        services.TryAddSingleton(serving);
        services
            .AddAuthentication(CookieAuthenticationDefaults.AuthenticationScheme)
            .AddCookie(cookie =>
            {
                cookie.Cookie.Name = serving.Secure ? "__Host-remedos" : "remedos";
                cookie.Cookie.HttpOnly = true;
                cookie.Cookie.SameSite = SameSiteMode.Strict;
                cookie.Cookie.SecurePolicy = serving.CookiePolicy;
                cookie.ExpireTimeSpan = SignInTickets.Longest;
                cookie.SlidingExpiration = false;
                cookie.Events.OnRedirectToLogin = _ => Task.CompletedTask;
                cookie.Events.OnRedirectToAccessDenied = _ => Task.CompletedTask;
            })
            // Holds the challenge of a passkey for the minutes until it is answered.
            .AddCookie(IdentityConstants.TwoFactorUserIdScheme, cookie =>
            {
                cookie.Cookie.Name = serving.Secure ? "__Host-remedos-challenge" : "remedos-challenge";
                cookie.Cookie.HttpOnly = true;
                cookie.Cookie.SameSite = SameSiteMode.Strict;
                cookie.Cookie.SecurePolicy = serving.CookiePolicy;
                cookie.ExpireTimeSpan = TimeSpan.FromMinutes(5);
            });
        services.AddSingleton<SignInTickets>();
        services
            .AddOptions<CookieAuthenticationOptions>(CookieAuthenticationDefaults.AuthenticationScheme)
            .Configure<SignInTickets>((cookie, tickets) => cookie.SessionStore = tickets);

        services
            .AddIdentityCore<Account>(identity =>
            {
                identity.Stores.SchemaVersion = IdentitySchemaVersions.Version3;
                Passwords.Set(identity.Password);
                identity.Lockout = new LockoutOptions { MaxFailedAccessAttempts = 10, DefaultLockoutTimeSpan = TimeSpan.FromMinutes(15) };
                identity.User.AllowedUserNameCharacters = "abcdefghijklmnopqrstuvwxyz0123456789-._@+";
                identity.Tokens.AuthenticatorIssuer = "Remedos";
            })
            .AddUserStore<AccountStore>()
            .AddSignInManager()
            .AddTokenProvider<AuthenticatorTokenProvider<Account>>(TokenOptions.DefaultAuthenticatorProvider)
            .AddPasswordValidator<Passwords>();
        services.Configure<PasswordHasherOptions>(hasher => hasher.IterationCount = Passwords.Iterations);
        services
            .AddOptions<IdentityPasskeyOptions>()
            .Configure(passkey =>
            {
                passkey.UserVerificationRequirement = "required";
                passkey.ResidentKeyRequirement = "required";
            });

        services.AddScoped<SignInDesk>();
        services.AddScoped<AccessLog>();
        services.AddSingleton<IPasswordHasher<Person>, PasswordHasher<Person>>();
        services.AddSingleton<Pins>();
        services.AddSingleton<Gate>();
        services.AddSingleton<IAuthorizationHandler>(provider => provider.GetRequiredService<Gate>());
        services.AddSingleton<IAuthorizationMiddlewareResultHandler, GateAnswers>();
        services
            .AddAuthorizationBuilder()
            .SetDefaultPolicy(new AuthorizationPolicyBuilder().AddRequirements(new Allowed(Role.Reader)).Build())
            .AddPolicy(Allowed.Lead, policy => policy.AddRequirements(new Allowed(Role.Lead)));
    }

    /// <summary>For a lead alone.</summary>
    public static T ForLeads<T>(this T endpoint)
        where T : IEndpointConventionBuilder => endpoint.RequireAuthorization(Allowed.Lead);

    /// <summary>Asked by POST, and changes nothing: readers may.</summary>
    public static T ChangesNothing<T>(this T endpoint)
        where T : IEndpointConventionBuilder => endpoint.WithMetadata(new ChangesNothingAttribute());

    /// <summary>Changes what is the caller's own: any role may.</summary>
    public static T OwnAffair<T>(this T endpoint)
        where T : IEndpointConventionBuilder => endpoint.WithMetadata(new OwnAffairAttribute());

    /// <summary>Changes how somebody gets in.</summary>
    public static T FreshlyProved<T>(this T endpoint)
        where T : IEndpointConventionBuilder => endpoint.WithMetadata(new FreshlyProvedAttribute());
}
