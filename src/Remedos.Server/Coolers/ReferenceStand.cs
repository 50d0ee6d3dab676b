using Microsoft.EntityFrameworkCore;
using Remedos.Data;

namespace Remedos.Server.Coolers;

/// <summary>
/// By what it is known that what sound machines are made of has changed, without reading it: of two changes at once the later moment may be
/// kept first, so that the latest alone would not tell.
/// </summary>
/// <param name="Parts">Another text once any part has changed.</param>
/// <param name="League">Another text once any figure of a cooler has moved, or the workshop's tag or clock has changed.</param>
internal sealed record ReferenceStand(string Parts, string League)
{
    public static Task<ReferenceStand> OfAsync(RemedosContext context, Guid workshop, CancellationToken cancellation) =>
        context
            .Database.SqlQuery<ReferenceStand>(
                $"""
                SELECT
                    (SELECT count(*) || ':' || coalesce(sum(extract(epoch FROM changed_at)), 0)
                     FROM parts WHERE workshop_id = {workshop}) AS parts,
                    (SELECT count(*) || ':' || coalesce(sum(extract(epoch FROM moved_at)), 0)
                     FROM league_totals WHERE workshop_id = {workshop})
                    || ':' || (SELECT xmin FROM workshops WHERE id = {workshop}) AS league
                """
            )
            .SingleAsync(cancellation);
}
