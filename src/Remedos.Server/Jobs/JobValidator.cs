using FluentValidation;
using Remedos.Core.Diagnosis;
using Remedos.Core.Jobs;
using Remedos.Core.Money;
using Remedos.Core.Runs;
using Remedos.Data.Jobs;

namespace Remedos.Server.Jobs;

/// <summary>What a job's fields may hold, each with the sentence that stands under the field.</summary>
public sealed class JobValidator : AbstractValidator<Job>
{
    /// <summary>What may steer the fans; null when it is not known.</summary>
    private static readonly string[] FanSources = ["cpu", "coolant", "gpu", "cpu-gpu", "board", "fixed"];

    private const int LongestLine = 200, LongestText = 4000;

    public JobValidator(TimeProvider clock)
    {
        foreach (System.Linq.Expressions.Expression<Func<Job, string?>> line in new System.Linq.Expressions.Expression<Func<Job, string?>>[] { j => j.Owner, j => j.Contact, j => j.Serial, j => j.Parts.Processor, j => j.Parts.Board, j => j.Parts.Memory, j => j.Parts.Graphics, j => j.Parts.Case, j => j.Parts.Cooler, j => j.Parts.Fans, j => j.Repair.Cooler, j => j.Repair.Paste, j => j.Repair.PasteMethod })
        {
            RuleFor(line).MaximumLength(LongestLine).WithMessage($"At most {LongestLine} letters fit here.");
        }

        foreach (System.Linq.Expressions.Expression<Func<Job, string?>> text in new System.Linq.Expressions.Expression<Func<Job, string?>>[] { j => j.Machine, j => j.Noticed, j => j.DoneBefore, j => j.Repair.Found, j => j.Repair.Done, j => j.Repair.Parts })
        {
            RuleFor(text).MaximumLength(LongestText).WithMessage($"At most {LongestText} letters fit here.");
        }

        RuleFor(j => j.RoomC).InclusiveBetween(-40, 60).WithMessage("A room has −40 to 60 °C.");
        RuleFor(j => j.TemperatureLimitC).InclusiveBetween(40, 130).WithMessage("Processors protect themselves somewhere between 40 and 130 °C.");
        RuleFor(j => j.RatedPowerW).InclusiveBetween(1, 2000).WithMessage("Expected 1 to 2000 W.");
        RuleFor(j => j.Repair.Minutes).InclusiveBetween(0, 10000).WithMessage("Expected 0 to 10000 minutes.");
        foreach (System.Linq.Expressions.Expression<Func<Job, string?>> cooler in new System.Linq.Expressions.Expression<Func<Job, string?>>[] { j => j.CoolerKind, j => j.Repair.CoolerKind })
        {
            RuleFor(cooler).Must(kind => kind is null || RunConditions.CoolerKinds.Contains(kind)).WithMessage($"Expected one of {string.Join(", ", RunConditions.CoolerKinds)}.");
        }

        RuleFor(j => j.Origin).Must(origin => origin is null or Job.Complete or Job.SelfBuilt).WithMessage($"Expected {Job.Complete} or {Job.SelfBuilt}.");
        RuleFor(j => j.Setting).Must(setting => setting is null || DiagnosisTables.Settings.Contains(setting)).WithMessage($"Expected one of {string.Join(", ", DiagnosisTables.Settings)}.");
        // A day may have begun elsewhere.
        bool HasBeen(DateOnly day) => day.Year >= 1980 && day <= DateOnly.FromDateTime(clock.GetUtcNow().UtcDateTime).AddDays(1);
        const string PastDate = "Expected a date after 1980 that is not still to come.";
        RuleFor(j => j.BuiltOn).Must(built => built is null || HasBeen(built.Value)).WithMessage(PastDate);
        RuleFor(j => j.LastDone).Must(done => done is null || DiagnosisTables.LastDone.Contains(done)).WithMessage($"Expected one of {string.Join(", ", DiagnosisTables.LastDone)}.");
        RuleFor(j => j.Parts.MemoryHeightMm).InclusiveBetween(10, 100).WithMessage("Memory stands 10 to 100 mm high.");
        RuleFor(j => j.Parts.FansSteeredBy).Must(source => source is null || FanSources.Contains(source)).WithMessage($"Expected one of {string.Join(", ", FanSources)}.");
        RuleFor(j => j.Warranty.PurchasedOn).Must(bought => bought is null || HasBeen(bought.Value)).WithMessage(PastDate);
        RuleFor(j => j.Warranty.Months).InclusiveBetween(1, 240).WithMessage("A warranty runs 1 to 240 months.");
        RuleFor(j => j.Warranty.EndedBy).Must(end => end is null || Warranty.Enders.Contains(end)).WithMessage($"Expected one of {string.Join(", ", Warranty.Enders)}.");
        RuleFor(j => j.Warranty.Route).Must(route => route is null || Warranty.Routes.Contains(route)).WithMessage($"Expected one of {string.Join(", ", Warranty.Routes)}.");
        RuleFor(j => j.TubeOneC).InclusiveBetween(-20, 110).WithMessage("A tube has −20 to 110 °C.");
        RuleFor(j => j.TubeOtherC).InclusiveBetween(-20, 110).WithMessage("A tube has −20 to 110 °C.");
        RuleFor(j => j.DecisionRoute).Must(route => route is null || Decision.All.Contains(route)).WithMessage($"Expected one of {string.Join(", ", Decision.All)}.");
        RuleFor(j => j.WaitingFor).Must(wait => wait is null || Waits.ByHand.Contains(wait)).WithMessage($"Expected one of {string.Join(", ", Waits.ByHand)}.");
    }
}
