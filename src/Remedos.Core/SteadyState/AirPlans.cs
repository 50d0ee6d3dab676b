using Remedos.Core.Machines;

namespace Remedos.Core.SteadyState;

/// <summary>The plan of a machine as it is: which fan follows what, and where the cooler hangs.</summary>
public static class AirPlans
{
    /// <summary>Where a radiator blows in by habit; elsewhere it blows out.</summary>
    public static readonly string[] Inward = ["front", "bottom", "side"];

    /// <summary>A machine as it is, with a cooler.</summary>
    /// <param name="cooler">Null while none is known.</param>
    /// <param name="place">Where its radiator hangs; null for an air cooler.</param>
    public static AirPlan Of(Build build, CoolerPart? cooler, string? place)
    {
        List<PlannedHeader> headers = HeadersOf(build, cooler);
        string? pump = cooler?.IsLiquid == true ? (headers.Find(header => header.Steering is null) ?? headers[^1]).Name : null;
        string? own = cooler?.Fans is { Count: > 0 }
            ? (headers.Find(header => header.Steering?.Source == "cpu") ?? headers.Find(header => header.Name != pump))?.Name
            : null;
        List<string> rest =
        [
            .. headers
                .Where(header => header.Name != pump && header.Name != own)
                .OrderBy(header => header.Steering is null)
                .Select(header => header.Name),
        ];
        List<PlannedFan> fans = [];
        // A radiator hangs where fans hung: they are gone, but for those that have room beside it.
        int beside = place is null ? 0 : RoomBeside(build.Case, place, cooler!);
        IReadOnlyList<FanNote> all = build.Case?.Fans ?? [];
        for (int i = 0; i < all.Count; i++)
        {
            FanNote fan = all[i];
            if (fan.Place == place && beside-- <= 0)
            {
                continue;
            }

            fans.Add(fan.Planned($"fan-{i + 1}", rest.Count > 0 ? rest[i % rest.Count] : own));
        }

        if (build.FansFollow == Steering.Fixed)
        {
            Fix(build, headers, fans, own);
        }
        else if (build.FansFollow is { } source && Curves.ContainsKey(source))
        {
            for (int i = 0; i < headers.Count; i++)
            {
                PlannedHeader header = headers[i];
                bool followed = header.Steering is not null && fans.Exists(fan => fan.Header == header.Name);
                headers[i] = followed || (source == "coolant" && header.Name == own) ? header with { Steering = CurveOf(source) } : header;
            }
        }

        return new AirPlan(
            fans,
            cooler is null ? null : new PlannedCooler(place, place is not null && BlowsIn(build, cooler, place), own, pump),
            headers
        );
    }

    private static bool BlowsIn(Build build, CoolerPart cooler, string place) =>
        build.RadiatorOf(cooler) is { } said && said.Place == place ? said.Inward : Inward.Contains(place);

    /// <summary>The usual curve of a source; null for full.</summary>
    public static Steering? CurveOf(string? source) => source == "full" ? null : Curves.GetValueOrDefault(source ?? "cpu") ?? Curves["cpu"];

    private static readonly Dictionary<string, Steering> Curves = new(StringComparer.Ordinal)
    {
        ["cpu"] = Library("cpu"),
        ["gpu"] = Library("card"),
        ["cpu-gpu"] = Library("hotter"),
        ["coolant"] = Library("coolant"),
        ["board"] = Library("board"),
    };

    private static Steering FixedAt(double share) => new("board", [new(Defaults.RoomC, 100 * share)]);

    /// <summary>Where case fans are fixed, share of full speed; null where they are not, or that is not known.</summary>
    internal static double? FixedShare(Build build, IReadOnlyList<PlannedFan> fans) =>
        build is { FansFollow: Steering.Fixed, FansFixedRpm: { } rpm } && fans.Count > 0
            ? Math.Min(1, rpm / fans.Max(fan => fan.MaxRpm))
            : null;

    /// <summary>Fixes the case's fans; those that hang on no header of their own hang on what holds them there.</summary>
    private static void Fix(Build build, List<PlannedHeader> headers, List<PlannedFan> fans, string? own)
    {
        double? known = FixedShare(build, fans);
        Steering at = FixedAt(known ?? Defaults.FixedFanShare);
        string hub = headers.Exists(header => header.Name == Hub) ? $"{Hub} 2" : Hub;
        bool held = false;
        for (int i = 0; i < fans.Count; i++)
        {
            PlannedFan fan = fans[i];
            // A fan of which only one speed is noted turns at that, unless it is known where all are fixed.
            bool apart = fan.Header is null ? known is not null : fan.Header == own;
            fans[i] = apart ? fan with { Header = hub } : fan;
            held |= apart;
        }

        for (int i = 0; i < headers.Count; i++)
        {
            PlannedHeader header = headers[i];
            bool holds = (header.Steering is not null || known is not null) && fans.Exists(fan => fan.Header == header.Name);
            headers[i] = holds ? header with { Steering = at } : header;
        }

        if (held)
        {
            headers.Add(new PlannedHeader(hub, null, at));
        }
    }

    /// <summary>What holds fans at a speed that hang on no header of the board.</summary>
    internal const string Hub = "HUB";

    private static Steering Library(string id) => MachineLibrary.Steerings.Single(row => row.Id == id).Curve;

    private static List<PlannedHeader> HeadersOf(Build build, CoolerPart? cooler)
    {
        List<PlannedHeader> headers = [];
        foreach (Header header in build.Board?.Headers ?? [])
        {
            double? carries = header.MaxCurrentA > 0 ? header.MaxCurrentA : null;
            headers.Add(new PlannedHeader(header.Name, carries, CurveOf(header.SteeredBy), header.SupplyFanA));
        }

        if (build.Board?.Headers is null)
        {
            headers.Add(new PlannedHeader("CPU", null, CurveOf("cpu")));
            headers.Add(new PlannedHeader("CASE", null, CurveOf("board")));
            if (cooler?.IsLiquid == true)
            {
                headers.Add(new PlannedHeader("PUMP", null, null));
            }
        }

        return headers;
    }

    /// <summary>How many fans still go beside a radiator at a place.</summary>
    internal static int RoomBeside(CasePart? housing, string place, CoolerPart cooler) =>
        PlacesOf(housing).FirstOrDefault(one => one.Place == place) is { } taken && cooler.RadiatorSizeMm is { } size
            ? Math.Max(0, (int)(((taken.Count * taken.SizesMm.Max()) - size) / taken.SizesMm.Min()))
            : 0;

    private const double SmallestTurnable = 120;

    /// <summary>Where a case takes fans: as it says, else what its fans and radiators tell.</summary>
    public static IReadOnlyList<FanPlace> PlacesOf(CasePart? housing)
    {
        if (housing?.FanPlaces is { } places)
        {
            return places;
        }

        IEnumerable<string> names = (housing?.Fans ?? [])
            .Select(fan => fan.Place)
            .Concat((housing?.Radiators ?? []).Select(radiator => radiator.Place))
            .Distinct();
        return
        [
            .. names.Select(name =>
            {
                FanNote[] fans = [.. housing!.Fans?.Where(fan => fan.Place == name) ?? []];
                double[] radiators =
                [
                    .. housing.Radiators?.Where(radiator => radiator.Place == name).SelectMany(radiator => radiator.SizesMm) ?? [],
                ];
                double turnable = fans.Length == 0 && radiators.All(size => size > 140) ? SmallestTurnable : 0;
                double[] sizes =
                [
                    .. fans.Select(fan => fan.SizeMm)
                        .Concat(radiators.Where(size => size <= 140))
                        .Append(turnable)
                        .Where(size => size > 0)
                        .Distinct()
                        .Order(),
                ];
                return new FanPlace(
                    name,
                    sizes,
                    Math.Max(fans.Length, radiators.Length == 0 ? 0 : (int)Math.Round(radiators.Max() / sizes[0]))
                );
            }),
        ];
    }

    /// <summary>What a header gives, share of full speed; full where a fan hangs on none.</summary>
    internal static double ShareOf(AirPlan plan, string? header, SteadyResult at)
    {
        for (int i = 0; header is not null && i < plan.Headers.Count; i++)
        {
            if (plan.Headers[i].Name == header)
            {
                return at.Shares[i];
            }
        }

        return 1;
    }
}
