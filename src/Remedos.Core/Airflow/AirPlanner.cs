using System.Globalization;
using Remedos.Core.Machines;
using Remedos.Core.Matching;
using Remedos.Core.SteadyState;

namespace Remedos.Core.Airflow;

/// <summary>A distance in the case.</summary>
/// <param name="Id">card-front, or radiator.</param>
/// <param name="FreeMm">Below 0 it is too short by as much.</param>
public sealed record Clearance(string Id, double FreeMm, string Message);

/// <summary>What does not go in a plan.</summary>
/// <param name="Subject">The fan's id, “radiator”, or a header's name.</param>
public sealed record AirFinding(string Code, string Subject, double? ByMm, string Message);

/// <summary>Makes the plan of a machine as it is, and says what does not go in a plan that was changed.</summary>
public static class AirPlanner
{
    /// <summary>Where a case takes fans: as it says, else what its fans and radiators tell.</summary>
    public static IReadOnlyList<FanPlace> PlacesOf(CasePart? housing) => AirPlans.PlacesOf(housing);

    /// <summary>The machine as it is.</summary>
    public static AirPlan Start(Build build, CoolerPart? cooler) => AirPlans.Of(build, cooler, Predictor.PlaceOf(build, cooler));

    /// <summary>The sound machine that its runs are held against; null while not even the kind of its cooler is known.</summary>
    public static ReferenceMachine? ReferenceOf(Build build, CoolerPart? cooler) =>
        ReferenceMachine.Of(build, cooler, Start(build, cooler));

    internal static int RoomBeside(CasePart? housing, string place, CoolerPart cooler) => AirPlans.RoomBeside(housing, place, cooler);

    /// <summary>The usual curve of a source; null for full.</summary>
    public static Steering? SteeringOf(string? source) => AirPlans.CurveOf(source);

    /// <summary>What does not go: places that are full, sizes and radiators that a case does not take.</summary>
    public static IReadOnlyList<AirFinding> Findings(Build build, CoolerPart? cooler, AirPlan plan)
    {
        List<AirFinding> found = [];
        IReadOnlyList<FanPlace> places = PlacesOf(build.Case);
        string? hung = cooler is { IsLiquid: true, RadiatorSizeMm: not null } ? plan.Cooler?.Place : null;
        foreach (IGrouping<string, PlannedFan> at in plan.Fans.GroupBy(fan => fan.Place))
        {
            if (places.FirstOrDefault(place => place.Place == at.Key) is not { } place)
            {
                found.AddRange(
                    at.Select(fan => new AirFinding(
                        "no-place",
                        fan.Id,
                        null,
                        build.Case is null ? "Measure first: where the case takes fans." : $"The case takes no fan at the {at.Key}."
                    ))
                );
                continue;
            }

            found.AddRange(
                at.Where(fan => !place.SizesMm.Contains(fan.ReckonedMm))
                    .Select(fan => new AirFinding(
                        "fan-size",
                        fan.Id,
                        null,
                        $"At the {at.Key} the case takes fans of {string.Join(", ", place.SizesMm.Select(Mm))}, "
                            + $"not of {Mm(fan.ReckonedMm)}."
                    ))
            );
            double taken =
                    at.Where(fan => place.SizesMm.Contains(fan.ReckonedMm)).Sum(fan => fan.ReckonedMm)
                    + (hung == at.Key ? cooler!.RadiatorSizeMm!.Value : 0),
                room = place.Count * place.SizesMm.Max();
            if (at.Count() > place.Count || taken > room)
            {
                found.Add(
                    new AirFinding(
                        "place-full",
                        at.Last().Id,
                        taken > room ? taken - room : null,
                        $"The {at.Key} takes {place.Count} "
                            + $"{(place.Count == 1 ? "fan" : "fans")}"
                            + $"{(hung == at.Key ? ", and the radiator is there" : $", not {at.Count()}")}."
                    )
                );
            }
        }

        if (hung is not null)
        {
            RadiatorPlace? place = build.Case?.Radiators?.FirstOrDefault(one => one.Place == hung);
            found.AddRange(
                build.Case?.Radiators is null
                    ?
                    [
                        new AirFinding(
                            Kebab.Of(FitCode.MeasureNeeded),
                            "radiator",
                            null,
                            "Measure first: where the case takes a radiator, and which."
                        ),
                    ]
                : place is null || !place.SizesMm.Contains(cooler!.RadiatorSizeMm!.Value)
                    ?
                    [
                        new AirFinding(
                            Kebab.Of(FitCode.RadiatorSize),
                            "radiator",
                            null,
                            $"The case has no place for a radiator of {Mm(cooler!.RadiatorSizeMm!.Value)} at the "
                                + $"{hung}{(place is null ? "" : $", only for {string.Join(", ", place.SizesMm.Select(Mm))}")}."
                        ),
                    ]
                : FitRadiators.ReasonAgainst(build, cooler, place) is { } reason
                    ? [new AirFinding(Kebab.Of(reason.Code), "radiator", reason.ByMm, reason.Message)]
                : []
            );
        }

        if (build.Case?.Obstacles?.Contains(CaseObstacle.OwnFans) == true)
        {
            HashSet<string> own = [.. AirPlans.Of(build, cooler, Predictor.PlaceOf(build, cooler)).Fans.Select(Model)];
            found.AddRange(
                plan.Fans.Where(fan => !own.Contains(Model(fan)))
                    .Select(fan => new AirFinding(
                        CaseObstacle.OwnFans,
                        fan.Id,
                        null,
                        $"The firmware may refuse the {fan.Place} fan, which is not its maker’s: keep the old one, and try before the "
                            + "case is closed."
                    ))
            );
        }

        return found;

        static string Model(PlannedFan fan) => $"{fan.SizeMm} {fan.MaxRpm} {fan.CurrentA}";
    }

    /// <summary>The distances that a cutaway shows.</summary>
    public static IReadOnlyList<Clearance> Clearances(Build build, CoolerPart? cooler, AirPlan plan)
    {
        List<Clearance> all = [];
        string? hung = cooler is { IsLiquid: true } ? plan.Cooler?.Place : null;
        if (build is { Graphics.LengthMm: { } card, Case.MaxCardLengthMm: { } length })
        {
            double free = length - card - (hung == "front" ? cooler!.RadiatorThicknessMm ?? 0 : 0);
            all.Add(new Clearance("card-front", free, free >= 0 ? $"{Mm(free)} before the card" : $"card {Mm(-free)} too long"));
        }

        if (
            hung is not null
            && build.Case?.Radiators?.FirstOrDefault(place => place.Place == hung)?.MaxThicknessMm is { } room
            && cooler!.RadiatorThicknessMm is { } thick
        )
        {
            all.Add(
                new Clearance(
                    "radiator",
                    room - thick,
                    room >= thick ? $"{Mm(room - thick)} behind the radiator" : $"radiator {Mm(thick - room)} too thick"
                )
            );
        }

        if (hung is null && cooler?.HeightMm is { } high && build.Case?.MaxCoolerHeightMm is { } under)
        {
            all.Add(
                new Clearance(
                    "cooler-panel",
                    under - high,
                    under >= high ? $"{Mm(under - high)} under the panel" : $"cooler {Mm(high - under)} too high"
                )
            );
        }

        return all;
    }

    internal static string Mm(double mm) => $"{mm.ToString("0.#", CultureInfo.InvariantCulture)} mm";
}
