using System;
using System.Collections.Generic;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Remedos.Data.Migrations
{
    /// <inheritdoc />
    public partial class DayPlan : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "left_out",
                table: "runs",
                type: "text",
                nullable: true);

            // Tags are reckoned anew by whoever looks at them.
            migrationBuilder.Sql("DELETE FROM kept_tags");
            migrationBuilder.AddColumn<string>(
                name: "work",
                table: "kept_tags",
                type: "jsonb",
                nullable: false,
                defaultValue: "{\"pieces\":[],\"asks\":false}");

            migrationBuilder.AddColumn<Guid>(
                name: "handled_by",
                table: "jobs",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<DateOnly>(
                name: "part_expected_on",
                table: "jobs",
                type: "date",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "plan_rank",
                table: "jobs",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<DateTimeOffset>(
                name: "promised_at",
                table: "jobs",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "repair_shares",
                columns: table => new
                {
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    round = table.Column<int>(type: "integer", nullable: false),
                    act = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    planned_minutes = table.Column<double>(type: "double precision", nullable: true),
                    taken_minutes = table.Column<double>(type: "double precision", nullable: true),
                    solved = table.Column<bool>(type: "boolean", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_repair_shares", x => new { x.workshop_id, x.job_id, x.round });
                    table.ForeignKey(
                        name: "fk_repair_shares_jobs_workshop_id_job_id",
                        columns: x => new { x.workshop_id, x.job_id },
                        principalTable: "jobs",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "repair_totals",
                columns: table => new
                {
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    act = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    repairs = table.Column<int>(type: "integer", nullable: false),
                    logged = table.Column<int>(type: "integer", nullable: false),
                    planned_minutes = table.Column<double>(type: "double precision", nullable: false),
                    taken_minutes = table.Column<double>(type: "double precision", nullable: false),
                    log_sum = table.Column<double>(type: "double precision", nullable: false),
                    log_squares = table.Column<double>(type: "double precision", nullable: false),
                    judged = table.Column<int>(type: "integer", nullable: false),
                    solved = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_repair_totals", x => new { x.workshop_id, x.act });
                    table.ForeignKey(
                        name: "fk_repair_totals_workshops_workshop_id",
                        column: x => x.workshop_id,
                        principalTable: "workshops",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "work_days",
                columns: table => new
                {
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    day = table.Column<DateOnly>(type: "date", nullable: false),
                    away = table.Column<List<Guid>>(type: "uuid[]", nullable: false),
                    bays_out = table.Column<List<int>>(type: "integer[]", nullable: false),
                    closed = table.Column<bool>(type: "boolean", nullable: false),
                    from = table.Column<TimeOnly>(type: "time without time zone", nullable: true),
                    to = table.Column<TimeOnly>(type: "time without time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_work_days", x => new { x.workshop_id, x.day });
                    table.CheckConstraint("ck_work_days_hours", "(\"from\" IS NULL) = (\"to\" IS NULL) AND \"from\" < \"to\"");
                    table.ForeignKey(
                        name: "fk_work_days_workshops_workshop_id",
                        column: x => x.workshop_id,
                        principalTable: "workshops",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_repair_shares_workshop_id_act",
                table: "repair_shares",
                columns: new[] { "workshop_id", "act" });

            // What repairs took is reckoned at the next start, for which revision 0 asks.
            migrationBuilder.Sql("UPDATE record_stands SET revision = 0");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "repair_shares");

            migrationBuilder.DropTable(
                name: "repair_totals");

            migrationBuilder.DropTable(
                name: "work_days");

            migrationBuilder.DropColumn(
                name: "left_out",
                table: "runs");

            migrationBuilder.DropColumn(
                name: "work",
                table: "kept_tags");

            migrationBuilder.DropColumn(
                name: "handled_by",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "part_expected_on",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "plan_rank",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "promised_at",
                table: "jobs");
        }
    }
}
