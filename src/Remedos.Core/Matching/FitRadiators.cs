using Remedos.Core.Machines;
using Remedos.Core.Parts;
using static Remedos.Core.Matching.Fit;

namespace Remedos.Core.Matching;

/// <summary>Where a radiator hangs, and why not elsewhere.</summary>
internal static class FitRadiators
{
    /// <summary>Size, thickness, hoses, and what it takes from the card.</summary>
    public static void Check(Build build, CoolerPart cooler, List<FitReason> reasons, List<string> places)
    {
        if (cooler.RadiatorSizeMm is not { } size || build.Case?.Radiators is not { } all)
        {
            reasons.Add(
                cooler.RadiatorSizeMm is null
                    ? Measure("how large its radiator is")
                    : Measure("where the case takes a radiator, and which", PartKind.Case)
            );
            return;
        }

        RadiatorPlace[] sized = [.. all.Where(place => place.SizesMm.Contains(size))];
        if (sized.Length == 0)
        {
            double largest = all.SelectMany(place => place.SizesMm).DefaultIfEmpty(0).Max();
            reasons.Add(
                new FitReason(
                    FitCode.RadiatorSize,
                    largest > 0 && size > largest ? Round(size - largest) : null,
                    largest == 0 ? "The case has no place for a radiator."
                        : size > largest ? $"Its radiator is {Mm(size)} long; the largest the case takes is {Mm(largest)}."
                        : $"The case has no place for a radiator of {Mm(size)}, only for "
                            + $"{string.Join(", ", all.SelectMany(place => place.SizesMm).Distinct().Order().Select(Mm))}."
                )
            );
            return;
        }

        List<FitReason> against = [];
        foreach (RadiatorPlace place in sized)
        {
            if (ReasonAgainst(build, cooler, place) is { } reason)
            {
                against.Add(reason);
            }
            else
            {
                places.Add(place.Place);
            }
        }

        if (places.Count == 0)
        {
            // A place that only wants measuring may still do; else the one that is nearest to fitting is told.
            FitReason? open = against.Find(reason => reason.Code == FitCode.MeasureNeeded);
            reasons.Add(open ?? against.MinBy(reason => reason.ByMm)!);
            if (open is not null)
            {
                places.AddRange(
                    sized.Where(place => ReasonAgainst(build, cooler, place)!.Code == FitCode.MeasureNeeded).Select(place => place.Place)
                );
            }
        }
    }

    public static FitReason? ReasonAgainst(Build build, CoolerPart cooler, RadiatorPlace place)
    {
        if (cooler.RadiatorThicknessMm is not { } thick)
        {
            return Measure("how thick its radiator is with its fans");
        }

        if (place.MaxThicknessMm is not { } room)
        {
            return MeasureRow.RadiatorAt(place.Place) is { } row
                ? Measure(row, thick)
                : Measure($"how thick a radiator may be at the {place.Place}", PartKind.Case);
        }

        if (thick > room)
        {
            return new FitReason(
                FitCode.RadiatorThickness,
                Round(thick - room),
                $"Radiator and fans are {Mm(thick)} thick; at the {place.Place} there is room for {Mm(room)}, {Mm(thick - room)} less."
            );
        }

        if (place.HoseNeedMm is { } need)
        {
            if (cooler.HoseMm is not { } hose)
            {
                return Measure("how long its hoses are");
            }

            if (hose < need)
            {
                return new FitReason(
                    FitCode.Hose,
                    Round(need - hose),
                    $"From the {place.Place} a hose has {Mm(need)} to go to the socket; its own are {Mm(hose)} long, {Mm(need - hose)} "
                        + $"too short."
                );
            }
        }

        if (place.MaxLengthMm is { } longest && cooler.RadiatorLengthMm is { } overall && overall > longest)
        {
            return new FitReason(
                FitCode.RadiatorSize,
                Round(overall - longest),
                $"With its end tanks its radiator is {Mm(overall)} long; at the {place.Place} there is room for {Mm(longest)}, "
                    + $"{Mm(overall - longest)} less."
            );
        }

        if (place.Place == "bottom" && build is { Graphics.ThicknessMm: { } card, Case.SlotToBottomMm: { } below } && card + thick > below)
        {
            return new FitReason(
                FitCode.CardThickness,
                Round(card + thick - below),
                $"At the bottom it takes {Mm(thick)} of the {Mm(below)} below the slot, and the card is {Mm(card)} thick: "
                    + $"{Mm(card + thick - below)} too much."
            );
        }

        if (place.Place == "front" && build.Graphics is not null)
        {
            if (build.Graphics.LengthMm is not { } cardLength || build.Case!.MaxCardLengthMm is not { } length)
            {
                return build.Graphics.LengthMm is { } known
                    ? Measure(MeasureRow.Of("cardRoomMm"), known + thick)
                    : Measure(MeasureRow.Of("cardLengthMm"), atMostMm: build.Case!.MaxCardLengthMm - thick);
            }

            if (cardLength + thick > length)
            {
                return new FitReason(
                    FitCode.CardLength,
                    Round(cardLength + thick - length),
                    $"In front it takes {Mm(thick)} from the card’s {Mm(length)}; the card is {Mm(cardLength)} long, "
                        + $"{Mm(cardLength + thick - length)} too much."
                );
            }
        }

        return null;
    }
}
