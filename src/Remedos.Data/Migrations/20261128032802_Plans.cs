using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Remedos.Data.Migrations
{
    /// <inheritdoc />
    public partial class Plans : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "repair_kept",
                table: "jobs",
                type: "text",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "plans",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    round = table.Column<int>(type: "integer", nullable: false),
                    facts = table.Column<string>(type: "jsonb", nullable: false),
                    composed = table.Column<string>(type: "jsonb", nullable: false),
                    from_setup = table.Column<int>(type: "integer", nullable: false),
                    from_mount = table.Column<int>(type: "integer", nullable: false),
                    made_setup = table.Column<int>(type: "integer", nullable: true),
                    begun_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    removed_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_plans", x => new { x.workshop_id, x.id });
                    table.CheckConstraint("ck_plans_number", "number >= 1 AND round >= 1");
                    table.ForeignKey(
                        name: "fk_plans_jobs_workshop_id_job_id",
                        columns: x => new { x.workshop_id, x.job_id },
                        principalTable: "jobs",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "plan_marks",
                columns: table => new
                {
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    plan_id = table.Column<Guid>(type: "uuid", nullable: false),
                    step_id = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    mark = table.Column<string>(type: "jsonb", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_plan_marks", x => new { x.workshop_id, x.plan_id, x.step_id });
                    table.ForeignKey(
                        name: "fk_plan_marks_plans_workshop_id_plan_id",
                        columns: x => new { x.workshop_id, x.plan_id },
                        principalTable: "plans",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_plans_workshop_id_job_id_number",
                table: "plans",
                columns: new[] { "workshop_id", "job_id", "number" },
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "plan_marks");

            migrationBuilder.DropTable(
                name: "plans");

            migrationBuilder.DropColumn(
                name: "repair_kept",
                table: "jobs");
        }
    }
}
