using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Remedos.Data.Migrations
{
    /// <inheritdoc />
    public partial class Intake : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "done_before",
                table: "jobs",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "last_done",
                table: "jobs",
                type: "character varying(40)",
                maxLength: 40,
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "parts_board",
                table: "jobs",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "parts_case",
                table: "jobs",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "parts_cooler",
                table: "jobs",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "parts_fans",
                table: "jobs",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "parts_fans_steered_by",
                table: "jobs",
                type: "character varying(20)",
                maxLength: 20,
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "parts_graphics",
                table: "jobs",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "parts_memory",
                table: "jobs",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "parts_memory_height_mm",
                table: "jobs",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "parts_processor",
                table: "jobs",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "repair_causes",
                table: "jobs",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'[]'");

            migrationBuilder.AddColumn<double>(
                name: "tube_one_c",
                table: "jobs",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "tube_other_c",
                table: "jobs",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "warranty_ended_by",
                table: "jobs",
                type: "character varying(20)",
                maxLength: 20,
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "warranty_months",
                table: "jobs",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<DateOnly>(
                name: "warranty_purchased_on",
                table: "jobs",
                type: "date",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "warranty_route",
                table: "jobs",
                type: "character varying(20)",
                maxLength: 20,
                nullable: true);

            migrationBuilder.CreateTable(
                name: "job_photos",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(10)", maxLength: 10, nullable: false),
                    name = table.Column<string>(type: "character varying(255)", maxLength: 255, nullable: false),
                    media_type = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    sha256 = table.Column<string>(type: "character(64)", fixedLength: true, maxLength: 64, nullable: false),
                    bytes = table.Column<long>(type: "bigint", nullable: false),
                    added_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    removed_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_job_photos", x => x.id);
                    table.CheckConstraint("ck_job_photos_kind", "kind IN ('photo', 'proof')");
                    table.ForeignKey(
                        name: "fk_job_photos_jobs_job_id",
                        column: x => x.job_id,
                        principalTable: "jobs",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_job_photos_people_person_id",
                        column: x => x.person_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "parts",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    name = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: false),
                    values = table.Column<string>(type: "jsonb", nullable: false),
                    changed_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_parts", x => x.id);
                    table.ForeignKey(
                        name: "fk_parts_workshops_workshop_id",
                        column: x => x.workshop_id,
                        principalTable: "workshops",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_jobs_workshop_id_serial",
                table: "jobs",
                columns: new[] { "workshop_id", "serial" });

            migrationBuilder.CreateIndex(
                name: "ix_job_photos_job_id",
                table: "job_photos",
                column: "job_id");

            migrationBuilder.CreateIndex(
                name: "ix_job_photos_person_id",
                table: "job_photos",
                column: "person_id");

            migrationBuilder.CreateIndex(
                name: "ix_job_photos_workshop_id_job_id",
                table: "job_photos",
                columns: new[] { "workshop_id", "job_id" });

            migrationBuilder.CreateIndex(
                name: "ix_parts_workshop_id_kind_name",
                table: "parts",
                columns: new[] { "workshop_id", "kind", "name" },
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "job_photos");

            migrationBuilder.DropTable(
                name: "parts");

            migrationBuilder.DropIndex(
                name: "ix_jobs_workshop_id_serial",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "done_before",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "last_done",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "parts_board",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "parts_case",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "parts_cooler",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "parts_fans",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "parts_fans_steered_by",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "parts_graphics",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "parts_memory",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "parts_memory_height_mm",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "parts_processor",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "repair_causes",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "tube_one_c",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "tube_other_c",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "warranty_ended_by",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "warranty_months",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "warranty_purchased_on",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "warranty_route",
                table: "jobs");
        }
    }
}
