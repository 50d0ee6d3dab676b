using Microsoft.EntityFrameworkCore;
using Remedos.Core.Money;
using Remedos.Data;
using Remedos.Data.Jobs;

namespace Remedos.Server.Demo;

/// <summary>A quote that the owner agreed to, and the bill that followed.</summary>
internal static class DemoPapers
{
    private const string Machine = "Design station";

    public static async Task AddAsync(
        RemedosContext context,
        Workshop workshop,
        Person person,
        DateTimeOffset now,
        CancellationToken cancellation
    )
    {
        Job job = await context.Jobs.FirstAsync(one => one.WorkshopId == workshop.Id && one.Machine!.StartsWith(Machine), cancellation);
        Paper Made(string kind, int number, double minutes, DateTimeOffset at) =>
            new()
            {
                Id = Guid.CreateVersion7(at),
                WorkshopId = workshop.Id,
                JobId = job.Id,
                Kind = kind,
                Number = number,
                PersonId = person.Id,
                MadeAt = at,
                Statement = Statement.Of(
                    job.Machine!,
                    job.Owner,
                    workshop.Currency,
                    [
                        StatementLine.Of("Corvane Ridge 2", 1, null, 8900),
                        StatementLine.Of("Paste", 1, null, 400),
                        StatementLine.Of("Labour", minutes, StatementLine.Minutes, workshop.LabourMinorPerHour),
                    ],
                    workshop.TaxPercent
                ),
            };
        Paper quote = Made(Paper.Quote, workshop.NextQuoteNumber++, 80, now.AddHours(-40));
        (quote.YesBy, quote.YesAt) = ("telephone", now.AddHours(-38));
        context.AddRange(quote, Made(Paper.Bill, workshop.NextBillNumber++, 70, now.AddHours(-3)));
        await context.SaveChangesAsync(cancellation);
    }
}
