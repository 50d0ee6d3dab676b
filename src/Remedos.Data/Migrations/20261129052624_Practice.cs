using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Remedos.Data.Migrations
{
    /// <inheritdoc />
    public partial class Practice : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<Guid>(
                name: "practice_for",
                table: "workshops",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "practice_of",
                table: "workshops",
                type: "uuid",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "practice_tries",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    bay_id = table.Column<Guid>(type: "uuid", nullable: false),
                    level = table.Column<int>(type: "integer", nullable: false),
                    seed = table.Column<int>(type: "integer", nullable: false),
                    alone = table.Column<bool>(type: "boolean", nullable: false),
                    started_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    ended_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    speed = table.Column<double>(type: "double precision", nullable: false),
                    stand = table.Column<string>(type: "jsonb", nullable: false),
                    ending = table.Column<string>(type: "jsonb", nullable: true),
                    score = table.Column<string>(type: "jsonb", nullable: true),
                    driven_by = table.Column<Guid>(type: "uuid", nullable: true),
                    driven_until = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_practice_tries", x => new { x.workshop_id, x.id });
                    table.CheckConstraint("ck_practice_tries_ended", "score IS NULL OR ended_at IS NOT NULL");
                    table.CheckConstraint("ck_practice_tries_speed", "speed >= 1 AND speed <= 120");
                    table.ForeignKey(
                        name: "fk_practice_tries_bays_workshop_id_bay_id",
                        columns: x => new { x.workshop_id, x.bay_id },
                        principalTable: "bays",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_practice_tries_jobs_workshop_id_job_id",
                        columns: x => new { x.workshop_id, x.job_id },
                        principalTable: "jobs",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_workshops_practice_of_practice_for",
                table: "workshops",
                columns: new[] { "practice_of", "practice_for" });

            migrationBuilder.AddCheckConstraint(
                name: "ck_workshops_practice",
                table: "workshops",
                sql: "(practice_of IS NULL) = (practice_for IS NULL)");

            migrationBuilder.CreateIndex(
                name: "ix_practice_tries_workshop_id_bay_id",
                table: "practice_tries",
                columns: new[] { "workshop_id", "bay_id" });

            migrationBuilder.CreateIndex(
                name: "ix_practice_tries_workshop_id_job_id",
                table: "practice_tries",
                columns: new[] { "workshop_id", "job_id" });

            migrationBuilder.CreateIndex(
                name: "ix_practice_tries_workshop_id_started_at",
                table: "practice_tries",
                columns: new[] { "workshop_id", "started_at" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "practice_tries");

            migrationBuilder.DropIndex(
                name: "ix_workshops_practice_of_practice_for",
                table: "workshops");

            migrationBuilder.DropCheckConstraint(
                name: "ck_workshops_practice",
                table: "workshops");

            migrationBuilder.DropColumn(
                name: "practice_for",
                table: "workshops");

            migrationBuilder.DropColumn(
                name: "practice_of",
                table: "workshops");
        }
    }
}
