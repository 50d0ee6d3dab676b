namespace Remedos.Core.Diagnosis;

/// <summary>
/// Ranks the observations that are still open by what they would tell, a minute, about which repair is needed (Heckerman, Breese &amp; Rommelse 1995, with mutual information
/// for the value). What cannot be undone or may end a warranty comes last, whatever it tells.
/// </summary>
public static class NextChecks
{
    /// <summary>Less than this tells nothing.</summary>
    private const double LeastBits = 0.002;

    /// <summary>All that tell something, in the order to be asked.</summary>
    /// <param name="weights">Of the sets, after all that was observed.</param>
    internal static IReadOnlyList<NextCheck> Of(DiagnosisCase asked, double[] weights)
    {
        HashSet<string> known = [.. asked.Evidence.Select(item => item.Id)];
        double total = weights.Sum();
        double[] groups = new double[DiagnosisNetwork.RepairGroupCount];
        for (int i = 0; i < weights.Length; i++)
        {
            groups[DiagnosisNetwork.RepairGroups[i]] += weights[i] / total;
        }

        List<NextCheck> checks = [];
        foreach (EvidenceRow row in DiagnosisTables.Evidence)
        {
            if (known.Contains(row.Id) || (row.Needs == "liquid" && asked.Machine.CoolerKind is not (null or "liquid")))
            {
                continue;
            }

            double bits = Information(row, weights, total, groups);
            if (bits >= LeastBits)
            {
                checks.Add(new NextCheck(row.Id, row.Minutes, bits, bits / row.Minutes, row.Reversible) { KeepsWarranty = row.KeepsWarranty, Outcomes = Outcomes(row, weights, total) });
            }
        }

        return [.. checks.OrderByDescending(check => check.Reversible).ThenByDescending(check => check.KeepsWarranty).ThenByDescending(check => check.BitsPerMinute).ThenBy(check => check.Evidence, StringComparer.Ordinal)];
    }

    /// <summary>Mutual information between an observation and the repairs that are needed, bits.</summary>
    private static double Information(EvidenceRow row, double[] weights, double total, double[] groups)
    {
        double bits = 0;
        double[] joint = new double[groups.Length];
        foreach (double[] likelihood in DiagnosisNetwork.Likelihood(row))
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

    private static IReadOnlyList<CheckOutcome> Outcomes(EvidenceRow row, double[] weights, double total) => [.. DiagnosisNetwork.Likelihood(row).Select((likelihood, state) =>
    {
        double[] after = [.. weights];
        Diagnoser.Multiply(after, likelihood);
        double[] marginals = DiagnosisNetwork.Marginals(after);
        int lead = Array.IndexOf(marginals, marginals.Max());
        return new CheckOutcome(row.Telling[state], after.Sum() / total, DiagnosisTables.Causes[lead].Id, marginals[lead]);
    })];
}
