using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Logs;
using Remedos.Data;
using Remedos.Data.Runs;

namespace Remedos.Server.Runs;

/// <summary>What a workshop has said of the columns of a header.</summary>
internal static class ColumnRoles
{
    /// <summary>Why a column cannot be given a role, as a refusal; null when it can.</summary>
    public static ProblemHttpResult? Refuse(string role, bool mayBeTime, out ChannelRole parsed) =>
        ChannelRoles.TryParse(role, out parsed) && (mayBeTime || parsed != ChannelRole.Time) ? null : RunChanges.Refused($"“{role}” is no role that a column can be given.");

    /// <summary>Keeps a column's role for its header.</summary>
    public static async Task RememberAsync(RemedosContext context, Guid workshopId, string fingerprint, int column, string role, DateTimeOffset now, CancellationToken cancellation)
    {
        RememberedRoles? kept = await context.RememberedRoles.AsNoTracking().SingleOrDefaultAsync(r => r.WorkshopId == workshopId && r.Fingerprint == fingerprint, cancellation);
        Dictionary<int, string> roles = new(kept?.Roles ?? []) { [column] = role };
        string json = JsonSerializer.Serialize(roles, RemedosContext.Json);
        await context.Database.ExecuteSqlAsync($"""
            INSERT INTO remembered_roles (workshop_id, fingerprint, roles, changed_at) VALUES ({workshopId}, {fingerprint}, {json}::jsonb, {now})
            ON CONFLICT (workshop_id, fingerprint) DO UPDATE SET roles = EXCLUDED.roles, changed_at = EXCLUDED.changed_at
            """, cancellation);
    }

    /// <summary>Has the other runs of the same file read anew in the background.</summary>
    public static Task SpreadAsync(RemedosContext context, Run run, string sha256, CancellationToken cancellation) =>
        context.Runs.Where(r => r.WorkshopId == run.WorkshopId && r.Id != run.Id && context.LogFiles.Any(f => f.Id == r.LogFileId && f.Sha256 == sha256))
            .ExecuteUpdateAsync(set => set.SetProperty(r => r.AnalysisVersion, 0), cancellation);
}
