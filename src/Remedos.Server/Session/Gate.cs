using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Authorization.Policy;
using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Data.People;

namespace Remedos.Server.Session;

/// <summary>An endpoint that is asked by POST and changes nothing.</summary>
[AttributeUsage(AttributeTargets.Method)]
internal sealed class ChangesNothingAttribute : Attribute;

/// <summary>An endpoint for whoever has proved the account within the last minutes: it changes how somebody gets in.</summary>
[AttributeUsage(AttributeTargets.Method)]
internal sealed class FreshlyProvedAttribute : Attribute;

/// <summary>An endpoint that any role may use to change what is its own.</summary>
[AttributeUsage(AttributeTargets.Method)]
internal sealed class OwnAffairAttribute : Attribute;

/// <summary>What a request needs: somebody signed in, of a role that may.</summary>
internal sealed record Allowed(Role Least) : IAuthorizationRequirement
{
    public const string Lead = "lead";
}

/// <summary>
/// Lets a request in or not. Every address under /api and the live one want a sign-in; what changes something wants a technician; what is
/// the
/// workshop's own wants a lead.
/// </summary>
internal sealed class Gate(IHttpContextAccessor http, TimeProvider clock) : AuthorizationHandler<Allowed>
{
    public static readonly TimeSpan Fresh = TimeSpan.FromMinutes(10);

    protected override Task HandleRequirementAsync(AuthorizationHandlerContext context, Allowed requirement)
    {
        if (http.HttpContext is { } request && request.Items[typeof(Who)] is Who who && Refusal(request, who, requirement) is null)
        {
            context.Succeed(requirement);
        }

        return Task.CompletedTask;
    }

    /// <summary>Why somebody who is signed in may not: type and sentence; null where it is allowed.</summary>
    public (string Type, string Sentence)? Refusal(HttpContext request, Who who, Allowed? requirement)
    {
        EndpointMetadataCollection? marks = request.GetEndpoint()?.Metadata;
        bool Has<T>()
            where T : class => marks?.GetMetadata<T>() is not null;
        bool lead = (requirement ?? new Allowed(Role.Reader)).Least == Role.Lead;
        bool changes = !HttpMethods.IsGet(request.Request.Method) && !HttpMethods.IsHead(request.Request.Method);
        if (lead && who.Role != Role.Lead)
        {
            return who.Person.Role == Role.Lead
                ? (ProveAgain, "This is for the lead alone, and others use this device: confirm it is you, then go on.")
                : ("not-allowed", "This is for a lead of the workshop.");
        }

        if (Has<FreshlyProvedAttribute>() && !(who.IsSelf && clock.GetUtcNow() - who.SignIn.ProvedAt <= Fresh))
        {
            return who.Person.AccountId == who.SignIn.AccountId
                ? (ProveAgain, "This changes who gets in: confirm it is you, then go on.")
                : ("not-allowed", $"This is for {who.Person.Name}’s own sign-in, and this device was signed in by somebody else.");
        }

        return changes && who.Role == Role.Reader && !Has<ChangesNothingAttribute>() && !Has<OwnAffairAttribute>()
            ? ("not-allowed", "You may look at everything here and change nothing. A lead can change that under Workshop, People.")
            : null;
    }

    public const string ProveAgain = "prove-again";
}

/// <summary>Says it in a sentence.</summary>
internal sealed class GateAnswers(Gate gate) : IAuthorizationMiddlewareResultHandler
{
    public async Task HandleAsync(
        RequestDelegate next,
        HttpContext context,
        AuthorizationPolicy policy,
        PolicyAuthorizationResult authorizeResult
    )
    {
        if (authorizeResult.Succeeded)
        {
            await next(context);
            return;
        }

        ProblemHttpResult answer = TypedResults.Problem(
            "Nobody is signed in on this device, or the sign-in has ended. Sign in and go on; what you typed is kept here.",
            statusCode: StatusCodes.Status401Unauthorized,
            type: "signed-out"
        );
        if (context.Items[typeof(Who)] is Who who)
        {
            (string type, string sentence) = policy
                .Requirements.OfType<Allowed>()
                .Select(one => gate.Refusal(context, who, one))
                .FirstOrDefault(one => one is not null)
                ?? ("not-allowed", "This is not allowed.");
            answer = TypedResults.Problem(sentence, statusCode: StatusCodes.Status403Forbidden, type: type);
        }

        await answer.ExecuteAsync(context);
    }
}
