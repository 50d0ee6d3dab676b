using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Remedos.Data.Migrations
{
    /// <inheritdoc />
    public partial class MemoryOfParts : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "tagged",
                table: "series_shares",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "led_log_squares",
                table: "record_stands",
                type: "double precision",
                nullable: false,
                defaultValue: 0.0);

            migrationBuilder.AddColumn<double>(
                name: "led_log_sum",
                table: "record_stands",
                type: "double precision",
                nullable: false,
                defaultValue: 0.0);

            migrationBuilder.AddColumn<int>(
                name: "led_runs",
                table: "record_stands",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "bay",
                table: "log_files",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "led_log_squares",
                table: "bench_scatters",
                type: "double precision",
                nullable: false,
                defaultValue: 0.0);

            migrationBuilder.AddColumn<double>(
                name: "led_log_sum",
                table: "bench_scatters",
                type: "double precision",
                nullable: false,
                defaultValue: 0.0);

            migrationBuilder.AddColumn<int>(
                name: "led_runs",
                table: "bench_scatters",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.CreateTable(
                name: "fitted_shares",
                columns: table => new
                {
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    part = table.Column<string>(type: "text", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    serial = table.Column<string>(type: "text", nullable: true),
                    fitted_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    taken_off = table.Column<bool>(type: "boolean", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_fitted_shares", x => new { x.workshop_id, x.job_id, x.kind, x.part });
                    table.ForeignKey(
                        name: "fk_fitted_shares_jobs_workshop_id_job_id",
                        columns: x => new { x.workshop_id, x.job_id },
                        principalTable: "jobs",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "fitted_totals",
                columns: table => new
                {
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    part = table.Column<string>(type: "text", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    seen = table.Column<string>(type: "jsonb", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_fitted_totals", x => new { x.workshop_id, x.kind, x.part });
                    table.ForeignKey(
                        name: "fk_fitted_totals_workshops_workshop_id",
                        column: x => x.workshop_id,
                        principalTable: "workshops",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "trial_shares",
                columns: table => new
                {
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    one = table.Column<string>(type: "text", nullable: false),
                    other = table.Column<string>(type: "text", nullable: false),
                    one_name = table.Column<string>(type: "text", nullable: false),
                    other_name = table.Column<string>(type: "text", nullable: false),
                    change_c = table.Column<double>(type: "double precision", nullable: false),
                    mount_weight = table.Column<double>(type: "double precision", nullable: false),
                    within_weight = table.Column<double>(type: "double precision", nullable: false),
                    rest_variance = table.Column<double>(type: "double precision", nullable: false),
                    half_life_hours = table.Column<double>(type: "double precision", nullable: true),
                    runs = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_trial_shares", x => new { x.workshop_id, x.job_id, x.kind, x.one, x.other });
                    table.ForeignKey(
                        name: "fk_trial_shares_jobs_workshop_id_job_id",
                        columns: x => new { x.workshop_id, x.job_id },
                        principalTable: "jobs",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "trial_totals",
                columns: table => new
                {
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    one = table.Column<string>(type: "text", nullable: false),
                    other = table.Column<string>(type: "text", nullable: false),
                    one_name = table.Column<string>(type: "text", nullable: false),
                    other_name = table.Column<string>(type: "text", nullable: false),
                    change = table.Column<string>(type: "jsonb", nullable: false),
                    half_life_hours = table.Column<double>(type: "double precision", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_trial_totals", x => new { x.workshop_id, x.kind, x.one, x.other });
                    table.ForeignKey(
                        name: "fk_trial_totals_workshops_workshop_id",
                        column: x => x.workshop_id,
                        principalTable: "workshops",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_series_shares_workshop_id_serial",
                table: "series_shares",
                columns: new[] { "workshop_id", "serial" });

            migrationBuilder.CreateIndex(
                name: "ix_series_shares_workshop_id_tagged",
                table: "series_shares",
                columns: new[] { "workshop_id", "tagged" });

            migrationBuilder.CreateIndex(
                name: "ix_fitted_shares_workshop_id_kind_part",
                table: "fitted_shares",
                columns: new[] { "workshop_id", "kind", "part" });

            migrationBuilder.CreateIndex(
                name: "ix_fitted_shares_workshop_id_number",
                table: "fitted_shares",
                columns: new[] { "workshop_id", "number" });

            migrationBuilder.CreateIndex(
                name: "ix_fitted_shares_workshop_id_serial",
                table: "fitted_shares",
                columns: new[] { "workshop_id", "serial" });

            migrationBuilder.CreateIndex(
                name: "ix_trial_shares_workshop_id_kind_one_other",
                table: "trial_shares",
                columns: new[] { "workshop_id", "kind", "one", "other" });

            migrationBuilder.Sql("UPDATE series_shares SET serial = lower(trim(serial)) WHERE serial IS NOT NULL");
            // What these tables hold is reckoned at the next start.
            migrationBuilder.Sql("UPDATE record_stands SET revision = 0");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "fitted_shares");

            migrationBuilder.DropTable(
                name: "fitted_totals");

            migrationBuilder.DropTable(
                name: "trial_shares");

            migrationBuilder.DropTable(
                name: "trial_totals");

            migrationBuilder.DropIndex(
                name: "ix_series_shares_workshop_id_serial",
                table: "series_shares");

            migrationBuilder.DropIndex(
                name: "ix_series_shares_workshop_id_tagged",
                table: "series_shares");

            migrationBuilder.DropColumn(
                name: "tagged",
                table: "series_shares");

            migrationBuilder.DropColumn(
                name: "led_log_squares",
                table: "record_stands");

            migrationBuilder.DropColumn(
                name: "led_log_sum",
                table: "record_stands");

            migrationBuilder.DropColumn(
                name: "led_runs",
                table: "record_stands");

            migrationBuilder.DropColumn(
                name: "bay",
                table: "log_files");

            migrationBuilder.DropColumn(
                name: "led_log_squares",
                table: "bench_scatters");

            migrationBuilder.DropColumn(
                name: "led_log_sum",
                table: "bench_scatters");

            migrationBuilder.DropColumn(
                name: "led_runs",
                table: "bench_scatters");
        }
    }
}
