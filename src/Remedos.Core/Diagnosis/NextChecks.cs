namespace Remedos.Core.Diagnosis;

/// <summary>
/// Ranks what is still open by what it would tell, a minute of its time and of what it risks, about which repair is needed (Heckerman,
/// Breese &amp; Rommelse 1995, with mutual information for the value). A run answers a dozen questions at once and is worth all of
/// them. What cannot be undone or may end a warranty comes last, whatever it tells.
/// </summary>
public static class NextChecks
{
    /// <summary>Less than this tells nothing.</summary>
    private const double LeastBits = 0.002;

    /// <summary>So many outcomes of a run are tried to see what it tells; the same ones for the same case.</summary>
    private const int Draws = 48,
        Seed = 1;

    /// <summary>All that tell something, in the order to be asked.</summary>
    /// <param name="weights">Of the sets, after all that was observed.</param>
    internal static IReadOnlyList<NextCheck> Of(DiagnosisCase asked, double[] weights)
    {
        HashSet<string> known = [.. asked.Evidence.Select(item => item.Id)];
        double total = weights.Sum();
        double[] groups = Groups(weights, total);
        List<NextCheck> checks = [];
        // A run that was made is not proposed again for what its log could not show.
        HashSet<string> made =
        [
            .. DiagnosisTables.Evidence.Where(row => row.Variant is not null && known.Contains(row.Id)).Select(row => row.Variant!),
        ];
        foreach (
            IGrouping<string, EvidenceRow> run in DiagnosisTables
                .Evidence.Where(row =>
                    row.IsAskedOf(asked.Machine) && !known.Contains(row.Id) && (row.Variant is null || !made.Contains(row.Variant))
                )
                .GroupBy(row => row.Variant ?? row.Id)
        )
        {
            EvidenceRow[] rows = [.. run];
            (EvidenceRow Row, double Bits)[] alone =
            [
                .. rows.Select(row => (row, Information(DiagnosisNetwork.Likelihood(row, asked.Machine), weights, total, groups))),
            ];
            (EvidenceRow best, double most) = alone.MaxBy(one => one.Bits);
            double bits =
                rows.Length == 1
                    ? most
                    : Math.Max(
                        most,
                        Together([.. rows.Select(row => DiagnosisNetwork.Likelihood(row, asked.Machine))], weights, total, groups)
                    );
            if (bits >= LeastBits)
            {
                double minutes = rows.Max(row => row.Minutes);
                checks.Add(
                    new NextCheck(best.Id, minutes, bits, bits / minutes, best.Reversible)
                    {
                        KeepsWarranty = best.KeepsWarranty,
                        RiskMinutes = rows.Max(row => row.RiskMinutes),
                        Together = [.. rows.Select(row => row.Id)],
                        Outcomes = Outcomes(best, asked.Machine, weights, total),
                    }
                );
            }
        }

        return
        [
            .. checks
                .OrderByDescending(check => check.Reversible)
                .ThenByDescending(check => check.KeepsWarranty)
                .ThenByDescending(check => check.ExpectedInformationBits / (check.Minutes + check.RiskMinutes))
                .ThenBy(check => check.Evidence, StringComparer.Ordinal),
        ];
    }

    private static double[] Groups(double[] weights, double total)
    {
        double[] groups = new double[DiagnosisNetwork.RepairGroupCount];
        for (int i = 0; i < weights.Length; i++)
        {
            groups[DiagnosisNetwork.RepairGroups[i]] += weights[i] / total;
        }

        return groups;
    }

    /// <summary>Mutual information between an observation and the repairs that are needed, bits.</summary>
    private static double Information(double[][] states, double[] weights, double total, double[] groups)
    {
        double bits = 0;
        double[] joint = new double[groups.Length];
        foreach (double[] likelihood in states)
        {
            Array.Clear(joint);
            double state = 0;
            for (int i = 0; i < weights.Length; i++)
            {
                double p = weights[i] * likelihood[i] / total;
                joint[DiagnosisNetwork.RepairGroups[i]] += p;
                state += p;
            }

            for (int group = 0; group < joint.Length; group++)
            {
                bits += joint[group] > 0 ? joint[group] * Math.Log2(joint[group] / (groups[group] * state)) : 0;
            }
        }

        return Math.Max(0, bits);
    }

    /// <summary>
    /// Of several observations that come at once: by how much their answers, drawn as they are likely to come, lessen what is open about
    /// the repairs.
    /// </summary>
    private static double Together(double[][][] rows, double[] weights, double total, double[] groups)
    {
        Random random = new(Seed);
        double left = 0;
        double[] after = new double[weights.Length];
        for (int draw = 0; draw < Draws; draw++)
        {
            int set = 0;
            for (
                double at = ((draw + random.NextDouble()) / Draws * total) - weights[0];
                at > 0 && set < weights.Length - 1;
                at -= weights[set]
            )
            {
                set++;
            }

            weights.CopyTo(after, 0);
            foreach (double[][] states in rows)
            {
                int state = 0;
                for (double at = random.NextDouble() - states[0][set]; at > 0 && state < states.Length - 1; at -= states[state][set])
                {
                    state++;
                }

                Diagnoser.Multiply(after, states[state]);
            }

            left += Entropy(Groups(after, after.Sum()));
        }

        return Math.Max(0, Entropy(groups) - (left / Draws));
    }

    private static double Entropy(double[] groups) => -groups.Sum(p => p > 0 ? p * Math.Log2(p) : 0);

    private static IReadOnlyList<CheckOutcome> Outcomes(EvidenceRow row, CaseMachine machine, double[] weights, double total) =>
        [
            .. DiagnosisNetwork
                .Likelihood(row, machine)
                .Select(
                    (likelihood, state) =>
                    {
                        double[] after = [.. weights];
                        Diagnoser.Multiply(after, likelihood);
                        double[] marginals = DiagnosisNetwork.Marginals(after);
                        int lead = Array.IndexOf(marginals, marginals.Max());
                        return new CheckOutcome(row.Telling[state], after.Sum() / total, DiagnosisTables.Causes[lead].Id, marginals[lead]);
                    }
                ),
        ];
}
