using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Remedos.Data.Migrations
{
    /// <inheritdoc />
    public partial class PartsThatCameBack : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_fitted_shares_workshop_id_kind_part",
                table: "fitted_shares");

            migrationBuilder.AddColumn<DateTimeOffset>(
                name: "back_at",
                table: "fitted_shares",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "back_by",
                table: "fitted_shares",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "back_number",
                table: "fitted_shares",
                type: "integer",
                nullable: true);

            migrationBuilder.CreateIndex(
                name: "ix_fitted_shares_workshop_id_kind_part_back_number",
                table: "fitted_shares",
                columns: new[] { "workshop_id", "kind", "part", "back_number" },
                filter: "back_by IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "ix_fitted_shares_workshop_id_kind_part_taken_off_number",
                table: "fitted_shares",
                columns: new[] { "workshop_id", "kind", "part", "taken_off", "number" },
                descending: new[] { false, false, false, true, true });

            migrationBuilder.Sql(
                """
                UPDATE fitted_shares f SET back_by = back.job_id, back_number = back.number, back_at = back.came_at
                FROM fitted_shares o
                CROSS JOIN LATERAL (
                  SELECT s.job_id, s.number, s.came_at FROM series_shares s
                  WHERE s.workshop_id = o.workshop_id AND s.number > o.number AND (s.serial = o.serial OR s.tagged = o.number)
                    AND s.causes ?| CASE o.kind
                      WHEN 'Cooler' THEN ARRAY['pump-failed', 'loop-restricted', 'coolant-lost', 'fan-failed']
                      WHEN 'Paste' THEN ARRAY['paste-aged']
                      ELSE ARRAY['poor-contact'] END
                  ORDER BY s.number LIMIT 1
                ) back
                WHERE NOT o.taken_off
                  AND f.workshop_id = o.workshop_id AND f.job_id = o.job_id AND f.kind = o.kind AND f.part = o.part
                """
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_fitted_shares_workshop_id_kind_part_back_number",
                table: "fitted_shares");

            migrationBuilder.DropIndex(
                name: "ix_fitted_shares_workshop_id_kind_part_taken_off_number",
                table: "fitted_shares");

            migrationBuilder.DropColumn(
                name: "back_at",
                table: "fitted_shares");

            migrationBuilder.DropColumn(
                name: "back_by",
                table: "fitted_shares");

            migrationBuilder.DropColumn(
                name: "back_number",
                table: "fitted_shares");

            migrationBuilder.CreateIndex(
                name: "ix_fitted_shares_workshop_id_kind_part",
                table: "fitted_shares",
                columns: new[] { "workshop_id", "kind", "part" });
        }
    }
}
