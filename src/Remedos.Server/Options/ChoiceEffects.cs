using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core;
using Remedos.Core.Jobs;
using Remedos.Core.Options;
using Remedos.Core.Parts;
using Remedos.Data.Jobs;
using Remedos.Data.Parts;
using Remedos.Server.Coolers;
using Remedos.Server.Jobs;
using Remedos.Server.Writing;

namespace Remedos.Server.Options;

/// <summary>What a choice does to its job: where the order of work goes on, and which cooler goes on.</summary>
internal static class ChoiceEffects
{
    private const string Field = "choice";

    public static async Task<ProblemHttpResult?> OfAsync(Write write, Job job, string field)
    {
        if (field != Field)
        {
            return null;
        }

        if (job.Choice is not { } choice)
        {
            write.Keep(job, "decisionRoute", null);
            return null;
        }

        if (choice.Cooler is { } name)
        {
            List<Part> coolers = await write
                .Context.Parts.AsNoTracking()
                .Where(part => part.WorkshopId == write.WorkshopId && part.Kind == PartKind.Cooler)
                .ToListAsync(write.Cancellation);
            if (Machine.Find(coolers, PartKind.Cooler, name) is not { } part)
            {
                return Refusal.Of($"“{name}” is not among the workshop’s coolers any more: choose another.", field);
            }

            if (part.RetiredAt is not null && choice.Option == OptionRow.AnotherCooler)
            {
                return Refusal.Of($"“{name}” has been retired: bring it back among the parts, or choose another.", field);
            }

            write.Keep(job, "repairCooler", part.Name);
        }

        write.Keep(job, "decisionRoute", choice.Route is { } route ? Kebab.Of(route) : null);
        if (choice.Option == OptionRow.WarrantyClaim)
        {
            write.Keep(job, "warrantyRoute", Warranty.Claim);
        }

        return null;
    }
}
