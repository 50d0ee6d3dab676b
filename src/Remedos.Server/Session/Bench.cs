using Microsoft.EntityFrameworkCore;
using Remedos.Data;

namespace Remedos.Server.Session;

/// <summary>
/// Whose request this is. Until people sign in, it is the workshop's first person; every handler asks here and nowhere else, so that
/// signing in changes this class alone.
/// </summary>
public sealed class Bench(IDbContextFactory<RemedosContext> contexts)
{
    private (Workshop Workshop, Person Person)? _known;

    public async Task<(Workshop Workshop, Person Person)> WhoAsync(CancellationToken cancellation)
    {
        if (_known is null)
        {
            await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
            Person person = await context.People.AsNoTracking().OrderBy(p => p.Id).FirstAsync(cancellation);
            _known = (await context.Workshops.AsNoTracking().SingleAsync(w => w.Id == person.WorkshopId, cancellation), person);
        }

        return _known.Value;
    }
}
