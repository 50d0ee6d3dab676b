using Microsoft.EntityFrameworkCore;
using Remedos.Data.Jobs;

namespace Remedos.Data.Records;

/// <summary>How shares and totals become tables.</summary>
internal static class RecordTables
{
    public static void Configure(ModelBuilder model)
    {
        model.Entity<SeriesShare>(share =>
        {
            share.HasKey(s => new { s.WorkshopId, s.JobId });
            share.HasOne<Job>().WithMany().HasForeignKey(s => new { s.WorkshopId, s.JobId });
            Tables.AsJson(share.Property(s => s.Causes));
            share.HasIndex(s => new
            {
                s.WorkshopId,
                s.Series,
                s.Number,
            });
            share.HasIndex(s => new { s.WorkshopId, s.Serial });
            share.HasIndex(s => new { s.WorkshopId, s.Tagged });
        });
        model.Entity<SeriesTotal>(total =>
        {
            total.HasKey(t => new { t.WorkshopId, t.Series });
            total.HasOne<Workshop>().WithMany().HasForeignKey(t => t.WorkshopId);
            Tables.AsJson(total.Property(t => t.Causes));
            Tables.AsJson(total.Property(t => t.Wear));
            Tables.AsJson(total.Property(t => t.Ages));
        });
        model.Entity<LeagueShare>(share =>
        {
            share.HasKey(s => new
            {
                s.WorkshopId,
                s.JobId,
                s.Cooler,
            });
            share.HasOne<Job>().WithMany().HasForeignKey(s => new { s.WorkshopId, s.JobId });
            share.HasIndex(s => new { s.WorkshopId, s.Cooler });
        });
        model.Entity<LeagueTotal>(total =>
        {
            total.HasKey(t => new { t.WorkshopId, t.Cooler });
            total.HasOne<Workshop>().WithMany().HasForeignKey(t => t.WorkshopId);
            Tables.AsJson(total.Property(t => t.Entry));
            Tables.AsJson(total.Property(t => t.Before));
        });
        model.Entity<RepairShare>(share =>
        {
            share.HasKey(s => new
            {
                s.WorkshopId,
                s.JobId,
                s.Round,
            });
            share.Property(s => s.Act).HasMaxLength(40);
            share.HasOne<Job>().WithMany().HasForeignKey(s => new { s.WorkshopId, s.JobId });
            share.HasIndex(s => new { s.WorkshopId, s.Act });
        });
        model.Entity<RepairTotal>(total =>
        {
            total.HasKey(t => new { t.WorkshopId, t.Act });
            total.Property(t => t.Act).HasMaxLength(40);
            total.HasOne<Workshop>().WithMany().HasForeignKey(t => t.WorkshopId);
        });
        model.Entity<FittedShare>(share =>
        {
            share.HasKey(s => new
            {
                s.WorkshopId,
                s.JobId,
                s.Kind,
                s.Part,
            });
            share.Property(s => s.Kind).HasConversion<string>().HasMaxLength(20);
            share.HasOne<Job>().WithMany().HasForeignKey(s => new { s.WorkshopId, s.JobId });
            // A popular part went into half of all machines: what is shown first stands first.
            share
                .HasIndex(s => new
                {
                    s.WorkshopId,
                    s.Kind,
                    s.Part,
                    s.TakenOff,
                    s.Number,
                })
                .IsDescending(false, false, false, true, true);
            share
                .HasIndex(s => new
                {
                    s.WorkshopId,
                    s.Kind,
                    s.Part,
                    s.BackNumber,
                })
                .HasFilter("back_by IS NOT NULL");
            share.HasIndex(s => new { s.WorkshopId, s.Serial });
            share.HasIndex(s => new { s.WorkshopId, s.Number });
        });
        model.Entity<FittedTotal>(total =>
        {
            total.HasKey(t => new
            {
                t.WorkshopId,
                t.Kind,
                t.Part,
            });
            total.Property(t => t.Kind).HasConversion<string>().HasMaxLength(20);
            total.HasOne<Workshop>().WithMany().HasForeignKey(t => t.WorkshopId);
            Tables.AsJson(total.Property(t => t.Seen));
        });
        model.Entity<TrialShare>(share =>
        {
            share.HasKey(s => new
            {
                s.WorkshopId,
                s.JobId,
                s.Kind,
                s.One,
                s.Other,
            });
            share.Property(s => s.Kind).HasConversion<string>().HasMaxLength(20);
            share.HasOne<Job>().WithMany().HasForeignKey(s => new { s.WorkshopId, s.JobId });
            share.HasIndex(s => new
            {
                s.WorkshopId,
                s.Kind,
                s.One,
                s.Other,
            });
        });
        model.Entity<TrialTotal>(total =>
        {
            total.HasKey(t => new
            {
                t.WorkshopId,
                t.Kind,
                t.One,
                t.Other,
            });
            total.Property(t => t.Kind).HasConversion<string>().HasMaxLength(20);
            total.HasOne<Workshop>().WithMany().HasForeignKey(t => t.WorkshopId);
            Tables.AsJson(total.Property(t => t.Change));
        });
        model.Entity<RecordStand>(stand =>
        {
            stand.HasKey(s => s.WorkshopId);
            stand.HasOne<Workshop>().WithMany().HasForeignKey(s => s.WorkshopId);
        });
        model.Entity<KeptTag>(tag =>
        {
            tag.HasKey(t => new { t.WorkshopId, t.JobId });
            tag.HasOne<Job>().WithMany().HasForeignKey(t => new { t.WorkshopId, t.JobId });
            tag.Property(t => t.WaitsFor).HasMaxLength(40);
            tag.Property(t => t.Headline).HasColumnType("jsonb");
            tag.Property(t => t.Staircase).HasColumnType("jsonb");
            tag.Property(t => t.Work).HasColumnType("jsonb");
        });
    }
}
