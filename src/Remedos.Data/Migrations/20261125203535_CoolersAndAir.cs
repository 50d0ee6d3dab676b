using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Remedos.Data.Migrations
{
    /// <inheritdoc />
    public partial class CoolersAndAir : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(
                name: "labour_minor_per_hour",
                table: "workshops",
                type: "bigint",
                nullable: false,
                defaultValue: 4800L);

            migrationBuilder.AddColumn<double>(
                name: "tax_percent",
                table: "workshops",
                type: "double precision",
                nullable: false,
                defaultValue: 0.0);

            migrationBuilder.AddColumn<string>(
                name: "weights",
                table: "workshops",
                type: "jsonb",
                nullable: true);

            migrationBuilder.AddColumn<DateTimeOffset>(
                name: "retired_at",
                table: "parts",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "air_plan",
                table: "jobs",
                type: "jsonb",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "decision_route",
                table: "jobs",
                type: "character varying(20)",
                maxLength: 20,
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "repair_cooler",
                table: "jobs",
                type: "text",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "part_events",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    part_id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    kind = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    before = table.Column<string>(type: "jsonb", nullable: true),
                    after = table.Column<string>(type: "jsonb", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_part_events", x => x.id);
                    table.ForeignKey(
                        name: "fk_part_events_parts_part_id",
                        column: x => x.part_id,
                        principalTable: "parts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_part_events_people_person_id",
                        column: x => x.person_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_part_events_part_id",
                table: "part_events",
                column: "part_id");

            migrationBuilder.CreateIndex(
                name: "ix_part_events_person_id",
                table: "part_events",
                column: "person_id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "part_events");

            migrationBuilder.DropColumn(
                name: "labour_minor_per_hour",
                table: "workshops");

            migrationBuilder.DropColumn(
                name: "tax_percent",
                table: "workshops");

            migrationBuilder.DropColumn(
                name: "weights",
                table: "workshops");

            migrationBuilder.DropColumn(
                name: "retired_at",
                table: "parts");

            migrationBuilder.DropColumn(
                name: "air_plan",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "decision_route",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "repair_cooler",
                table: "jobs");
        }
    }
}
