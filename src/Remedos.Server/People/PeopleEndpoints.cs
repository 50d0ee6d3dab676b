using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.People;
using Remedos.Server.Hosting;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.People;

/// <summary>Somebody of the workshop, as a lead sees it.</summary>
/// <param name="Login">The name to sign in by; null for nobody who has a way in of its own.</param>
/// <param name="CodeApp">Whether a code is asked for beside the password.</param>
/// <param name="InvitedUntil">Until when an open link holds; null for none.</param>
/// <param name="SeenAt">When a device of this person was last used.</param>
public sealed record PersonAnswer(
    Guid Id,
    string Name,
    Role Role,
    string? Login,
    bool CodeApp,
    bool HasPin,
    DateTimeOffset? InvitedUntil,
    DateTimeOffset? SeenAt,
    DateTimeOffset? LeftAt
);

/// <summary>Somebody who begins to work here.</summary>
public sealed record NewPerson(string Name, Role Role);

/// <summary>What changes of somebody; null for what stays.</summary>
public sealed record PersonChange(string? Name, Role? Role, bool? Left);

/// <summary>A PIN; null to take it away.</summary>
public sealed record NewPin(string? Pin);

/// <summary>A link, told once.</summary>
/// <param name="Address">What the person opens.</param>
/// <param name="Elsewhere">Whether another device reaches it so.</param>
public sealed record InvitationAnswer(string Address, bool Elsewhere, DateTimeOffset Until);

/// <summary>Who works here, in which role: a lead's to say.</summary>
internal static class PeopleEndpoints
{
    private const int LongestName = 200;

    public static void MapPeople(this RouteGroupBuilder api)
    {
        RouteGroupBuilder people = api.MapGroup("/people").WithTags("people").ForLeads();
        people.MapGet("/", ListAsync).WithName("listPeople");
        people.MapPost("/", AddAsync).WithName("addPerson").ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        people
            .MapPatch("/{id:guid}", ChangeAsync)
            .WithName("changePerson")
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        people.MapPut("/{id:guid}/pin", SetPinAsync).WithName("setPin").ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        people
            .MapPost("/{id:guid}/invitation", InviteAsync)
            .WithName("invite")
            .FreshlyProved()
            .ProducesProblem(StatusCodes.Status404NotFound);
        people
            .MapDelete("/{id:guid}/code-app", DropCodeAppAsync)
            .WithName("dropCodeAppOf")
            .FreshlyProved()
            .ProducesProblem(StatusCodes.Status404NotFound);
        people.MapDelete("/{id:guid}/sign-ins", EndAsync).WithName("endSignInsOf").ProducesProblem(StatusCodes.Status404NotFound);
    }

    private static async Task<Ok<PersonAnswer[]>> ListAsync(Caller caller, TimeProvider clock, CancellationToken cancellation)
    {
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        return TypedResults.Ok(await AnswersAsync(context, null, clock.GetUtcNow(), cancellation));
    }

    private static async Task<PersonAnswer[]> AnswersAsync(
        RemedosContext context,
        Guid? one,
        DateTimeOffset now,
        CancellationToken cancellation
    )
    {
        Guid workshop = context.Workshop!.Value;
        return await context
            .People.Where(person => person.WorkshopId == workshop && person.From == null && (one == null || person.Id == one))
            .OrderBy(person => person.LeftAt != null)
            .ThenBy(person => person.Name)
            .Select(person => new PersonAnswer(
                person.Id,
                person.Name,
                person.Role,
                context.Users.Where(account => account.Id == person.AccountId).Select(account => account.UserName).FirstOrDefault(),
                context.Users.Any(account => account.Id == person.AccountId && account.TwoFactorEnabled),
                person.PinHash != null,
                context
                    .Invitations.Where(link => link.PersonId == person.Id && link.UsedAt == null && link.ExpiresAt > now)
                    .Max(link => (DateTimeOffset?)link.ExpiresAt),
                context
                    .SignIns.Where(signIn => signIn.WorkshopId == workshop && signIn.PersonId == person.Id)
                    .Max(signIn => (DateTimeOffset?)signIn.SeenAt),
                person.LeftAt
            ))
            .ToArrayAsync(cancellation);
    }

    private static Task<Results<Ok<PersonAnswer>, ProblemHttpResult>> AddAsync(
        NewPerson added,
        Caller caller,
        WriteDoor door,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        Guid id = Guid.CreateVersion7(clock.GetUtcNow());
        return door.WriteAsync(
            write =>
            {
                if (NameProblem(added.Name) is { } wrong)
                {
                    return Task.FromResult<ProblemHttpResult?>(wrong);
                }

                Person person = new()
                {
                    Id = id,
                    WorkshopId = write.WorkshopId,
                    Name = added.Name.Trim(),
                    Role = added.Role,
                };
                write.Context.People.Add(person);
                write.Event("person", person.Name, null, Json(Words(person)));
                return Task.FromResult<ProblemHttpResult?>(null);
            },
            () => AnswerAsync(caller, id, clock, cancellation),
            cancellation
        );
    }

    private static Task<Results<Ok<PersonAnswer>, ProblemHttpResult>> ChangeAsync(
        Guid id,
        PersonChange change,
        Caller caller,
        WriteDoor door,
        TimeProvider clock,
        CancellationToken cancellation
    ) =>
        door.WriteAsync(
            async write =>
            {
                // The workshop's row keeps two leads from demoting each other at once.
                await write.WorkshopAsync();
                if (await FindAsync(write, id) is not { } person)
                {
                    return Refusal.None("person");
                }

                if (change.Name is { } name && NameProblem(name) is { } wrong)
                {
                    return wrong;
                }

                string before = Words(person);
                person.Name = change.Name?.Trim() ?? person.Name;
                person.Role = change.Role ?? person.Role;
                person.LeftAt = change.Left switch
                {
                    true => person.LeftAt ?? write.Now,
                    false => null,
                    null => person.LeftAt,
                };
                bool leads = await write.Context.People.AnyAsync(
                    one => one.Id != id && one.Role == Role.Lead && one.LeftAt == null && one.AccountId != null,
                    cancellation
                );
                if (!leads && (person.Role != Role.Lead || person.LeftAt != null || person.AccountId == null))
                {
                    return Refusal.Of("A workshop keeps a lead who can sign in. Make somebody else a lead first.");
                }

                if (person.LeftAt != null)
                {
                    await Invitations.VoidAsync(write.Context, person, write.Now, cancellation);
                }

                if (Words(person) != before)
                {
                    write.Event("person", person.Name, Json(before), Json(Words(person)));
                }

                return null;
            },
            () => AnswerAsync(caller, id, clock, cancellation),
            cancellation
        );

    private static Task<Results<Ok<PersonAnswer>, ProblemHttpResult>> SetPinAsync(
        Guid id,
        NewPin pin,
        Caller caller,
        Pins pins,
        WriteDoor door,
        TimeProvider clock,
        CancellationToken cancellation
    ) =>
        door.WriteAsync(
            async write =>
            {
                if (await FindAsync(write, id) is not { } person)
                {
                    return Refusal.None("person");
                }

                return SetPin(write, person, pin.Pin, pins);
            },
            () => AnswerAsync(caller, id, clock, cancellation),
            cancellation
        );

    /// <summary>Sets somebody's PIN, or takes it away.</summary>
    internal static ProblemHttpResult? SetPin(Write write, Person person, string? pin, Pins pins)
    {
        if (pin is not null && Pins.Problem(pin) is { } wrong)
        {
            return Refusal.Of(wrong, "pin");
        }

        person.PinHash = pin is null ? null : pins.HashOf(person, pin);
        (person.PinFailures, person.PinLockedUntil) = (0, null);
        write.Event("pin", person.Name, null, Json(pin is null ? "taken away" : "set"));
        return null;
    }

    private static async Task<Results<Ok<InvitationAnswer>, ProblemHttpResult>> InviteAsync(
        Guid id,
        WriteDoor door,
        PublicAddress address,
        HttpRequest request,
        CancellationToken cancellation
    )
    {
        (string token, DateTimeOffset until) = ("", default);
        return await door.WriteAsync(
            async write =>
            {
                if (await FindAsync(write, id) is not { LeftAt: null } person)
                {
                    return Refusal.None("person");
                }

                if (await WorksElsewhereAsync(write, person) is { } elsewhere)
                {
                    return elsewhere;
                }

                (token, until) = await Invitations.MakeAsync(write.Context, person, write.Now, cancellation);
                write.Event("invitation", person.Name);
                return null;
            },
            // Behind the sign that no browser sends on: it stays out of every server's log.
            () =>
                Task.FromResult(
                    new InvitationAnswer($"{address.For(request)}{Invitations.Path}#{token}", address.IsElsewhere(request), until)
                ),
            cancellation
        );
    }

    /// <summary>For somebody whose telephone is lost, and the recovery codes with it.</summary>
    private static Task<Results<Ok<PersonAnswer>, ProblemHttpResult>> DropCodeAppAsync(
        Guid id,
        Caller caller,
        WriteDoor door,
        TimeProvider clock,
        CancellationToken cancellation
    ) =>
        door.WriteAsync(
            async write =>
            {
                if (await FindAsync(write, id) is not { } person)
                {
                    return Refusal.None("person");
                }

                if (await WorksElsewhereAsync(write, person) is { } elsewhere)
                {
                    return elsewhere;
                }

                await write
                    .Context.Users.Where(one => one.Id == person.AccountId)
                    .ExecuteUpdateAsync(set => set.SetProperty(one => one.TwoFactorEnabled, false), cancellation);
                write.Event("code-app-dropped", person.Name);
                return null;
            },
            () => AnswerAsync(caller, id, clock, cancellation),
            cancellation
        );

    private static Task<Results<Ok<PersonAnswer>, ProblemHttpResult>> EndAsync(
        Guid id,
        Caller caller,
        WriteDoor door,
        TimeProvider clock,
        CancellationToken cancellation
    ) =>
        door.WriteAsync(
            async write =>
            {
                if (await FindAsync(write, id) is not { } person)
                {
                    return Refusal.None("person");
                }

                await write
                    .Context.SignIns.Where(one => one.WorkshopId == write.WorkshopId && one.EndedAt == null)
                    .Where(one => one.PersonId == id || one.AccountId == person.AccountId)
                    .ExecuteUpdateAsync(set => set.SetProperty(one => one.EndedAt, write.Now), cancellation);
                write.Event("sign-ins-ended", person.Name);
                return null;
            },
            () => AnswerAsync(caller, id, clock, cancellation),
            cancellation
        );

    private static async Task<PersonAnswer> AnswerAsync(Caller caller, Guid id, TimeProvider clock, CancellationToken cancellation)
    {
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        return (await AnswersAsync(context, id, clock.GetUtcNow(), cancellation)).Single();
    }

    private static Task<Person?> FindAsync(Write write, Guid id) =>
        write.Context.People.SingleOrDefaultAsync(
            one => one.WorkshopId == write.WorkshopId && one.Id == id && one.From == null,
            write.Cancellation
        );

    /// <summary>
    /// A lead renews the way in of whoever works here alone: the same account opens other workshops, which are not this lead's.
    /// </summary>
    private static async Task<ProblemHttpResult?> WorksElsewhereAsync(Write write, Person person) =>
        await write
            .Context.People.IgnoreQueryFilters()
            .AnyAsync(
                one =>
                    person.AccountId != null
                    && one.AccountId == person.AccountId
                    && one.WorkshopId != write.WorkshopId
                    && one.LeftAt == null,
                write.Cancellation
            )
            ? Refusal.Of($"{person.Name} works in another workshop by the same sign-in, which is not this one’s to renew.")
            : null;

    private static ProblemHttpResult? NameProblem(string name) =>
        Core.Bays.BayLine.Clean(name).Trim() is { Length: >= 1 and <= LongestName }
            ? null
            : Refusal.Of($"A person’s name has 1 to {LongestName} letters.", "name");

    /// <summary>Somebody in a few words, for the log.</summary>
    private static string Words(Person person) =>
        $"{person.Name}, {person.Role.ToString().ToLowerInvariant()}{(person.LeftAt is null ? "" : ", has left")}";

    private static string Json(string words) => System.Text.Json.JsonSerializer.Serialize(words, RemedosContext.Json);
}
