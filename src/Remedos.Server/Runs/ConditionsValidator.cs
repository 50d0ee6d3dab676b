using FluentValidation;
using Remedos.Core.Runs;

namespace Remedos.Server.Runs;

/// <summary>The rules of Core on the wire.</summary>
public sealed class ConditionsValidator : AbstractValidator<RunConditions>
{
    public ConditionsValidator()
    {
        RuleFor(c => c.Workload).MaximumLength(200).WithMessage("At most 200 letters fit here.");
        RuleFor(c => c).Custom((conditions, context) =>
        {
            foreach ((string field, string problem) in conditions.Problems())
            {
                context.AddFailure(field, problem);
            }
        });
    }
}
