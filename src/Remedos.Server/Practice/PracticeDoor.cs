using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Practice;

/// <summary>
/// The way into practice: under its prefix every address means the workshop in which whoever is signed in practises, and never the one in
/// which they work. A page is in one or the other as a whole; a second tab stays where it is.
/// </summary>
internal sealed class PracticeDoor(RequestDelegate next)
{
    /// <summary>Pages and addresses of practice stand under it.</summary>
    public const string Prefix = "/practice-bench";

    private static readonly object Asked = new(),
        NotThere = new();

    public Task InvokeAsync(HttpContext context)
    {
        if (
            context.Request.Path.StartsWithSegments(Prefix, StringComparison.Ordinal, out PathString rest)
            && (rest.StartsWithSegments("/api", StringComparison.Ordinal) || rest.StartsWithSegments("/live", StringComparison.Ordinal))
        )
        {
            context.Items[Asked] = true;
            context.Request.Path = rest;
        }

        return next(context);
    }

    /// <summary>Whoever asks as the one who practises, where practice is asked for; who works, elsewhere.</summary>
    public static async Task<Who> WhoAsync(RemedosContext context, HttpContext http, Who works, CancellationToken cancellation)
    {
        if (!http.Items.ContainsKey(Asked))
        {
            return works;
        }

        if (await FindAsync(context, works, cancellation) is not var (workshop, person))
        {
            http.Items[NotThere] = true;
            return works;
        }

        workshop.TemperatureUnit = works.Workshop.TemperatureUnit;
        http.RequestServices.GetRequiredService<PracticeBench>().Want(workshop.Id);
        return new Who(workshop, person, works.SignIn);
    }

    /// <summary>Where somebody practises; null where nobody has begun to.</summary>
    public static async Task<(Workshop Workshop, Person Person)?> FindAsync(
        RemedosContext context,
        Who works,
        CancellationToken cancellation
    )
    {
        var found = await context
            .Workshops.AsNoTracking()
            .IgnoreQueryFilters()
            .Where(one => one.PracticeOf == works.Workshop.Id && one.PracticeFor == works.Person.Id)
            .Join(
                context.People.IgnoreQueryFilters(),
                one => one.Id,
                person => person.WorkshopId,
                (Workshop, Person) => new { Workshop, Person }
            )
            .FirstOrDefaultAsync(cancellation);
        return found is null ? null : (found.Workshop, found.Person);
    }

    /// <summary>
    /// Refuses what asks for a practice that nobody has begun: it must not reach the workshop itself. Whoever signs in and out, and how, is
    /// the workshop's affair and stands in its log, not in that of a practice.
    /// </summary>
    public static Task GuardAsync(HttpContext context, RequestDelegate next) =>
        context.Items.ContainsKey(NotThere)
            ? Refusal.Unknown("You have not begun to practise. Open Practice and start a case.").ExecuteAsync(context)
        : context.Items.ContainsKey(Asked) && context.GetEndpoint()?.Metadata.GetMetadata<OwnAffairAttribute>() is not null
            ? Refusal.Unknown("This is done at work: go back to the workshop for it.").ExecuteAsync(context)
        : next(context);
}
