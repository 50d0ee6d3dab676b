using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Bays;
using Remedos.Data.Jobs;
using Remedos.Data.Parts;
using Remedos.Data.Planning;
using Remedos.Data.Runs;
using Remedos.Server.Bays;
using Remedos.Server.Files;
using Remedos.Server.Settings;
using Remedos.Server.Writing;

namespace Remedos.Server.Bundles;

/// <summary>Puts a whole workshop into an empty one, within one change.</summary>
internal static class RestoreArchive
{
    /// <summary>Why nothing is read into this workshop; null for an empty one.</summary>
    public static async Task<string?> WhyNotEmptyAsync(RemedosContext context, CancellationToken cancellation)
    {
        Guid workshop = context.Workshop!.Value;
        (int jobs, int parts, int bays) = (
            await context.Jobs.CountAsync(j => j.WorkshopId == workshop, cancellation),
            await context.Parts.CountAsync(p => p.WorkshopId == workshop, cancellation),
            await context.Bays.CountAsync(b => b.WorkshopId == workshop, cancellation)
        );
        return jobs + parts + bays == 0
            ? null
            : $"An archive is read into an empty workshop only, and this one has {jobs} jobs, {parts} parts and {bays} bays. Single jobs "
                + "can be read in under Jobs.";
    }

    /// <summary>Puts everything in, one job in memory at a time.</summary>
    /// <exception cref="BundleException">Something of it cannot stand.</exception>
    public static async Task<ArchiveAnswer> PutAsync(Write write, BundleZip zip, Manifest manifest, WorkshopRecord record, IFileStore files)
    {
        RemedosContext context = write.Context;
        Workshop workshop = await write.WorkshopAsync();
        Settle(workshop, record.Workshop);
        await zip.KeepAsync("", manifest, files, write.Cancellation);
        workshop.LogoSha256 = manifest.Files.FirstOrDefault(file => file.Sha256 == record.Workshop.LogoSha256)?.Sha256;
        IReadOnlyDictionary<Guid, Guid> people = await BundleReader.AddPeopleAsync(write, record.People, from: null);
        context.AddRange(record.Parts.Select(part => PartOf(part, write.WorkshopId)));
        context.AddRange(
            record.Columns.Select(one => new RememberedRoles
            {
                WorkshopId = write.WorkshopId,
                Fingerprint = one.Fingerprint,
                Roles = one.Roles,
                ChangedAt = one.ChangedAt,
            })
        );
        context.AddRange(
            record.Bays.Select(number => new Bay
            {
                Id = Guid.CreateVersion7(write.Now),
                WorkshopId = write.WorkshopId,
                Number = number,
                // Of a token that nobody has: a machine joins anew.
                TokenSha256 = BayToken.Sha256(BayToken.New()),
            })
        );
        // Those of the empty workshop give way, as its settings do.
        await context.WorkDays.Where(day => day.WorkshopId == write.WorkshopId).ExecuteDeleteAsync(write.Cancellation);
        context.AddRange(
            (record.Days ?? []).Select(day => new WorkDay
            {
                WorkshopId = write.WorkshopId,
                Day = day.Day,
                Away = [.. day.Away.Where(people.ContainsKey).Select(one => people[one])],
                BaysOut = day.BaysOut,
                Closed = day.Closed,
                From = day.From,
                To = day.To,
            })
        );
        await context.SaveChangesAsync(write.Cancellation);
        foreach (PartRecord part in record.Parts)
        {
            await EventRows.OfParts.AddAsync(context, write.WorkshopId, part.Id, Here(part.Events, people), write.Cancellation);
        }

        await EventRows.OfWorkshops.AddAsync(context, write.WorkshopId, null, Here(record.Events, people), write.Cancellation);
        int runs = 0;
        foreach (string folder in manifest.Jobs)
        {
            context.ChangeTracker.Clear();
            GivenJob given = await BundleReader.ReadAsync(zip, folder, write.Cancellation);
            await zip.KeepAsync(folder, given.Manifest, files, write.Cancellation);
            Job job = await BundleReader.AddAsync(write, given, number: null, from: null, people, anew: false);
            await context.SaveChangesAsync(write.Cancellation);
            runs += given.Record.Runs.Count;
        }

        context.ChangeTracker.Clear();
        write.Event("archive-read", null, null, JsonSerializer.Serialize(manifest.MadeAt, RemedosContext.Json));
        return new ArchiveAnswer(record.Workshop.Name, manifest.Jobs.Count, runs, record.Parts.Count);
    }

    /// <summary>Takes over what the workshop had set, as its form would.</summary>
    private static void Settle(Workshop workshop, Workshop given)
    {
        foreach (SettingsField field in SettingsFields.All)
        {
            JsonElement value = JsonSerializer.SerializeToElement(field.Get(given), RemedosContext.Json);
            if (field.Set(workshop, value) is { } wrong)
            {
                throw new BundleException($"cannot be read in: the workshop’s {field.Name}: {wrong}");
            }
        }

        if (given is not { NextJobNumber: > 0, NextQuoteNumber: > 0, NextBillNumber: > 0 })
        {
            throw new BundleException("cannot be read in: its next numbers are none.");
        }

        (workshop.NextJobNumber, workshop.NextQuoteNumber, workshop.NextBillNumber) = (
            given.NextJobNumber,
            given.NextQuoteNumber,
            given.NextBillNumber
        );
    }

    private static Part PartOf(PartRecord part, Guid workshop) =>
        new()
        {
            Id = part.Id,
            WorkshopId = workshop,
            Kind = part.Kind,
            Name = part.Name,
            Values = part.Values,
            ChangedAt = part.ChangedAt,
            RetiredAt = part.RetiredAt,
        };

    private static IReadOnlyList<EventRecord> Here(IReadOnlyList<EventRecord> changes, IReadOnlyDictionary<Guid, Guid> people) =>
        [
            .. changes.Select(change =>
                people.TryGetValue(change.Person, out Guid person)
                    ? change with
                    {
                        Person = person,
                    }
                    : throw new BundleException("cannot be read in: somebody who did something is not among its people.")
            ),
        ];
}
