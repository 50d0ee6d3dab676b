using Remedos.Core.Machines;
using Remedos.Core.SteadyState;

namespace Remedos.Core.Airflow;

/// <summary>One way of doing it, and what it does.</summary>
/// <param name="Plan">To be taken over with one touch.</param>
/// <param name="ProcessorC">Both chips at full.</param>
/// <param name="CardAloneC">The card while it works alone; null without one.</param>
/// <param name="Fits">Whether everything goes in.</param>
/// <param name="Over">Which limits it goes over, “processor 2 °C over its limit of 95 °C”; empty where it holds them all.</param>
public sealed record AirWay(
    string Title,
    AirPlan Plan,
    double? ProcessorC,
    double? CardC,
    double? CardAloneC,
    double NoiseDba,
    AirPressure Pressure,
    double CasePa,
    bool Fits,
    IReadOnlyList<string> Over,
    bool IsNow
);

/// <summary>A question that a technician would otherwise answer by a day of swapping, and its ways.</summary>
/// <param name="Sentence">What comes out, in words.</param>
public sealed record AirQuestion(string Id, string Title, IReadOnlyList<AirWay> Ways, string Sentence);

/// <summary>The ready-made comparisons.</summary>
public static class AirComparison
{
    private static readonly (string Source, string Title)[] Followed =
    [
        ("cpu", "the processor"),
        ("coolant", "the liquid"),
        ("gpu", "the card"),
        ("cpu-gpu", "the hotter of the two"),
        ("board", "the case’s air"),
    ];

    /// <summary>Chips that differ by less are alike, °C.</summary>
    private const double AlikeC = 1;

    /// <summary>The questions that this plan, cooler and build put.</summary>
    public static IReadOnlyList<AirQuestion> Of(Build build, CoolerPart? cooler, AirPlan plan)
    {
        List<AirQuestion> all = [];
        if (cooler?.IsLiquid == true && plan.Cooler is { } hung)
        {
            HashSet<string> places = [.. (build.Case?.Radiators ?? []).Select(place => place.Place)];
            all.Add(
                Ask(
                    "radiator",
                    "Where the radiator goes",
                    build,
                    cooler,
                    plan,
                    RadiatorWay
                        .Chosen.Where(way => places.Contains(way.Place))
                        .Select(way =>
                            (
                                way.Title,
                                plan with
                                {
                                    Cooler = hung with { Place = way.Place, Inward = way.Inward },
                                    Fans = MovedAside(build, cooler, plan, way.Place),
                                }
                            )
                        )
                )
            );
        }

        if (plan.Fans.Count > 1)
        {
            int many = plan.Fans.Count;
            // The fans are counted here; what the air does beside radiator and openings stands in the table.
            int[] inward = [many == 2 ? 2 : many - 1, many / 2, many == 2 ? 0 : 1];
            all.Add(
                Ask(
                    "balance",
                    "More in or more out",
                    build,
                    cooler,
                    plan,
                    inward.Distinct().Select(n => ($"{n} case {(n == 1 ? "fan" : "fans")} in, {many - n} out", Balanced(plan, n)))
                )
            );
        }

        HashSet<string?> steered =
        [
            .. plan.Fans.Select(fan => fan.Header).Append(cooler?.IsLiquid == true ? plan.Cooler?.FanHeader : null),
        ];
        if (plan.Headers.Any(header => header.Steering is not null && steered.Contains(header.Name)))
        {
            all.Add(
                Ask(
                    "follow",
                    cooler?.IsLiquid == true ? "What case and radiator fans follow" : "What the case fans follow",
                    build,
                    cooler,
                    plan,
                    Followed
                        .Where(way =>
                            (way.Source != "coolant" || cooler?.IsLiquid == true)
                            && (way.Source is not ("gpu" or "cpu-gpu") || build.Graphics is not null)
                        )
                        .Select(way =>
                            (
                                way.Title,
                                plan with
                                {
                                    Headers =
                                    [
                                        .. plan.Headers.Select(header =>
                                            header.Steering is not null && steered.Contains(header.Name)
                                                ? header with
                                                {
                                                    Steering = AirPlanner.SteeringOf(way.Source),
                                                }
                                                : header
                                        ),
                                    ],
                                }
                            )
                        )
                )
            );
        }

        all.Add(
            Ask(
                "panel",
                "Panel and filter",
                build,
                cooler,
                plan,
                [
                    ("closed, filter clean", plan with { PanelOff = false, Filter = FilterState.Clean }),
                    ("closed, filter dusty", plan with { PanelOff = false, Filter = FilterState.Dusty }),
                    ("closed, no filter", plan with { PanelOff = false, Filter = FilterState.None }),
                    ("side panel off", plan with { PanelOff = true }),
                ]
            )
        );
        return [.. all.Where(question => question.Ways.Count > 1)];
    }

    /// <summary>The fans of a place go to where the radiator came from, as far as the case takes them there.</summary>
    private static PlannedFan[] MovedAside(Build build, CoolerPart cooler, AirPlan plan, string to)
    {
        string? from = plan.Cooler?.Place;
        if (from == to || from is null)
        {
            return [.. plan.Fans];
        }

        FanPlace? freed = AirPlanner.PlacesOf(build.Case).FirstOrDefault(place => place.Place == from);
        int room = (freed?.Count ?? 0) - plan.Fans.Count(fan => fan.Place == from);
        int stay = AirPlanner.RoomBeside(build.Case, to, cooler);
        List<PlannedFan> fans = [];
        foreach (PlannedFan fan in plan.Fans)
        {
            if (fan.Place != to)
            {
                fans.Add(fan);
            }
            else if (stay-- > 0)
            {
                fans.Add(fan);
            }
            else if (room-- > 0 && freed!.SizesMm.Contains(fan.ReckonedMm))
            {
                fans.Add(fan with { Place = from, Inward = AirPlans.Inward.Contains(from) });
            }
        }

        return [.. fans];
    }

    /// <summary>So many fans blow in, those in front first.</summary>
    private static AirPlan Balanced(AirPlan plan, int inward)
    {
        HashSet<string> chosen = [.. plan.Fans.OrderBy(fan => Array.IndexOf(AirOrder, fan.Place)).Take(inward).Select(fan => fan.Id)];
        return plan with { Fans = [.. plan.Fans.Select(fan => fan with { Inward = chosen.Contains(fan.Id) })] };
    }

    private static readonly string[] AirOrder = ["front", "bottom", "side", "top", "rear"];

    private static AirQuestion Ask(
        string id,
        string title,
        Build build,
        CoolerPart? cooler,
        AirPlan plan,
        IEnumerable<(string Title, AirPlan Plan)> ways
    )
    {
        AirWay[] all =
        [
            .. ways.Select(way =>
            {
                AirSolver solver = new(build, cooler, way.Plan);
                AirAnswer both = solver.Solve();
                double? alone = build.Graphics is null ? null : solver.Solve(AirLoad.Card).CardC;
                return new AirWay(
                    way.Title,
                    way.Plan,
                    both.ProcessorC,
                    both.CardC,
                    alone,
                    both.NoiseDba,
                    both.Pressure,
                    both.CasePa,
                    AirPlanner.Findings(build, cooler, way.Plan).All(finding => finding.Code == CaseObstacle.OwnFans),
                    [
                        .. new[]
                        {
                            Over("processor", both.ProcessorC, build.Processor.TemperatureLimitC),
                            Over("card", both.CardC > alone ? both.CardC : alone, build.Graphics?.TemperatureLimitC),
                        }.OfType<string>(),
                    ],
                    Same(way.Plan, plan)
                );
            }),
        ];
        return new AirQuestion(id, title, all, Sentence(all));
    }

    private static string? Over(string chip, double? at, double? limit) =>
        at > limit ? $"{chip} {Degrees.By(Math.Max(1, Math.Ceiling(at.Value - limit.Value)))} over its limit of {Degrees.At(limit)}" : null;

    private static bool Same(AirPlan a, AirPlan b) =>
        a.Cooler == b.Cooler
        && a.PanelOff == b.PanelOff
        && a.Filter == b.Filter
        && a.Fans.SequenceEqual(b.Fans)
        && a.Headers.Zip(b.Headers)
            .All(pair =>
                pair.First.Steering?.Source == pair.Second.Steering?.Source
                && (pair.First.Steering?.Points ?? []).SequenceEqual(pair.Second.Steering?.Points ?? [])
            );

    /// <summary>Which way is best for which chip, and what it takes from the other.</summary>
    private static string Sentence(AirWay[] all)
    {
        AirWay[] fitting = [.. all.Where(way => way.Fits)],
            holding = [.. fitting.Where(way => way.Over.Count == 0)];
        if (fitting.Length == 0)
        {
            return "None of these fits.";
        }

        // Nobody is advised to overheat a chip; where every way does, the coolest is still worth knowing.
        AirWay[] able = holding.Length > 0 ? holding : fitting;
        string limits =
            holding.Length == 0 ? " None of them holds every limit: cap the power or change the cooler."
            : holding.Length == fitting.Length ? ""
            : $" {string.Join(" and ", fitting.Except(holding).Select(way => Capital(way.Title)))} "
                + $"{(fitting.Length - holding.Length == 1 ? "goes" : "go")} over a limit.";
        if (able.Length == 1 && holding.Length > 0)
        {
            return $"Only {able[0].Title} holds every limit.";
        }

        AirWay cool = able.MinBy(way => way.ProcessorC ?? 0)!,
            card = able.MinBy(way => way.CardC ?? 0)!,
            quiet = able.MinBy(way => way.NoiseDba)!;
        bool processorNotices = cool.ProcessorC is not null && able.Max(way => way.ProcessorC) - cool.ProcessorC >= AlikeC,
            cardNotices = card.CardC is not null && able.Max(way => way.CardC) - card.CardC >= AlikeC;
        string chips =
            !processorNotices && !cardNotices ? "The chips hardly notice"
            : !processorNotices
                ? $"The card is coolest with {card.Title} ({Degrees.At(card.CardC)})"
                    + $"{(cool.ProcessorC is null ? "" : ", and the processor hardly notices")}"
            : cool == card || card.CardC is null || cool.CardC - card.CardC < AlikeC
                ? $"Coolest with {cool.Title}: processor "
                    + $"{Degrees.At(cool.ProcessorC)}{(cool.CardC is { } at ? $", card {Degrees.At(at)}" : "")}"
            : $"Processor coolest with {cool.Title} ({Degrees.At(cool.ProcessorC)}, card {Degrees.Point(cool.CardC):0}), "
                + $"card with {card.Title} "
                + $"({Degrees.At(card.CardC)}, processor {Degrees.Point(card.ProcessorC):0})";
        AirWay coolest = processorNotices ? cool : card;
        return quiet != coolest && coolest.NoiseDba - quiet.NoiseDba >= 1
            ? $"{chips}; quietest with {quiet.Title}, by {coolest.NoiseDba - quiet.NoiseDba:0} dB(A).{limits}"
            : $"{chips}.{limits}";
    }

    private static string Capital(string title) => char.ToUpperInvariant(title[0]) + title[1..];
}
