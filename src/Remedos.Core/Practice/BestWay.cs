using Remedos.Core.Airflow;
using Remedos.Core.Bays;
using Remedos.Core.Diagnosis;
using Remedos.Core.Machines;
using Remedos.Core.Repair;

namespace Remedos.Core.Practice;

/// <summary>
/// The same case worked by the product's own rules: a usual run first, then whatever tells most for its minutes until the diagnosis is
/// sure, the repair that leads, a run again; and so on until nothing is found any more. It knows nothing that a trainee could not know.
/// </summary>
public static class BestWay
{
    private const int MostRounds = 3,
        MostChecks = 20;

    /// <summary>A repair less probable than this is not made after one that did not help.</summary>
    private const double MayBeNeeded = 0.15;

    /// <summary>Works a case.</summary>
    /// <returns>All that was done, in order.</returns>
    public static PracticeStand Of(PracticeCase practice)
    {
        PracticeStand stand = PracticeStand.Fresh;
        List<string> mended = [];
        for (int round = 0; round < MostRounds; round++)
        {
            stand = stand.Ran("usual");
            (stand, DiagnosisAnswer found) = Found(practice, stand, mended);
            if (Open(found, mended) is not { } repair)
            {
                return Whole(practice, stand);
            }

            mended.AddRange(CausesOf(repair));
            stand =
                RepairRow.IsAnotherCooler(repair) ? stand.Handled(practice, Hands(stand.Cooler), Hands(Larger(practice))).Kept(practice)
                // A cooler that is off already is seated anew by putting it back.
                : stand.IsOff && repair == RepairRow.Remount ? Home(practice, stand)
                : Mended(practice, Home(practice, stand), repair);
        }

        return stand.Ran("usual");
    }

    /// <summary>
    /// The repair to make; null where nothing wrong leads, or it is too early for any. What was done already is not done again: where that
    /// still leads, it is the next that may be needed.
    /// </summary>
    private static string? Open(DiagnosisAnswer found, List<string> mended) =>
        DiagnosisStand.Of(found) is { Lead: not null, Certainty: not null }
            ? found.Repairs.FirstOrDefault(one => one.Probability >= MayBeNeeded && !CausesOf(one.Id).Any(mended.Contains))?.Id
            : null;

    private static IEnumerable<string> CausesOf(string repair) =>
        DiagnosisTables.Causes.Where(cause => cause.Repair == repair).Select(cause => cause.Id);

    /// <summary>As it is left: what was taken apart for a look and led to nothing is put back, and shown to run.</summary>
    private static PracticeStand Whole(PracticeCase practice, PracticeStand stand) =>
        stand.IsOff ? Home(practice, stand).Ran("usual") : stand;

    /// <summary>Repaired, where that can be done; left together where it cannot.</summary>
    private static PracticeStand Mended(PracticeCase practice, PracticeStand home, string repair) =>
        home.Repaired(practice, repair).After ?? home;

    private static BenchHands Hands(string? cooler) => new(Cooler: cooler);

    /// <summary>What lay beside the machine or was on it for a trial is its own again.</summary>
    private static PracticeStand Home(PracticeCase practice, PracticeStand stand) =>
        stand.IsOff ? stand.Handled(practice, Hands(stand.Cooler), Hands(null)) : stand;

    /// <summary>Asks, looks and runs until it is sure, or nothing tells any more.</summary>
    private static (PracticeStand, DiagnosisAnswer) Found(PracticeCase practice, PracticeStand stand, List<string> mended)
    {
        // What was asked and seen before a repair is not what stands there now, but for what the owner told.
        int from = stand.Acts.Count - 1;
        string? on = stand.Cooler;
        BenchMachine machine = practice.With(on, out _)!;
        CaseOnBench bench = new(
            machine,
            SteadyState.HeatMachines.Of(machine),
            stand.Left(practice).ToDictionary(cause => cause, cause => practice.Faults[cause]),
            AirPlanner.ReferenceOf(machine.Build, machine.Cooler),
            practice.Seed + stand.Acts.Count
        );
        CaseMachine known = practice.Known with
        {
            CoolerKind = machine.Cooler.Kind,
            ByKind = false,
            Cured = mended.Count == 0 ? null : mended,
        };
        HashSet<string> asked = new(StringComparer.Ordinal);
        while (true)
        {
            EvidenceItem[] told =
            [
                .. new PracticeStand([.. stand.Acts.Skip(from)]).Told.Where(item => DiagnosisTables.EvidenceOf(item.Id)!.IsAskedOf(known)),
            ];
            DiagnosisAnswer answer = Diagnoser.Of(
                new DiagnosisCase(known, [.. told, .. bench.Evidence.Where(item => told.All(one => one.Id != item.Id))])
            );
            DiagnosisStand now = DiagnosisStand.Of(answer);
            NextCheck? next =
                now.IsSure || asked.Count >= MostChecks
                    ? null
                    : answer.NextChecks.FirstOrDefault(check =>
                        check.ExpectedInformationBits >= DiagnosisStand.WorthBits && !asked.Contains(check.Evidence)
                    );
            if (next is null)
            {
                return (stand, answer);
            }

            asked.Add(next.Evidence);
            stand = Made(practice, stand, bench, DiagnosisTables.EvidenceOf(next.Evidence)!);
        }
    }

    private static PracticeStand Made(PracticeCase practice, PracticeStand stand, CaseOnBench bench, EvidenceRow row)
    {
        if (row.Kind is "run" or "trial")
        {
            if (!bench.Make(row.Id))
            {
                return stand;
            }

            // Each trial is a run of its own; some want hands before and after it.
            return row.Id switch
            {
                "known-good-cooler" => stand
                    .Handled(practice, Hands(stand.Cooler), Hands(CaseOnBench.KnownGood))
                    .Ran("usual")
                    .Handled(practice, Hands(CaseOnBench.KnownGood), Hands(stand.Cooler)),
                "cooler-room" => stand
                    .Handled(practice, Hands(stand.Cooler), Hands(stand.Cooler) with { RoomC = CaseOnBench.CoolRoomC })
                    .Ran("usual"),
                _ => stand.Ran(row.Variant ?? "usual"),
            };
        }

        PracticeStand open =
            !row.Reversible && !stand.IsOff ? stand.Handled(practice, Hands(stand.Cooler), Hands(BenchHands.Lifted)) : stand;
        return open.Asked(practice, row.Id).After ?? stand;
    }

    /// <summary>The smallest of the library's coolers that holds it; the largest where none does.</summary>
    private static string Larger(PracticeCase practice)
    {
        TrueCooler[] others =
        [
            .. MachineLibrary
                .Coolers.Where(one => one.Id != practice.Row.Cooler && practice.With(one.Id, out _) is not null)
                .OrderByDescending(one => one.Truth.FinsCPerW),
        ];
        return (others.FirstOrDefault(one => practice.Holds(one.Id)) ?? others[^1]).Id;
    }
}
