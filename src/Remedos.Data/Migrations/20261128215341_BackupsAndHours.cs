using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Remedos.Data.Migrations
{
    /// <inheritdoc />
    public partial class BackupsAndHours : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<TimeOnly>(
                name: "backup_at",
                table: "workshops",
                type: "time without time zone",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "backups_kept",
                table: "workshops",
                type: "integer",
                nullable: false,
                defaultValue: 14);

            migrationBuilder.AddColumn<string>(
                name: "logo_sha256",
                table: "workshops",
                type: "character(64)",
                fixedLength: true,
                maxLength: 64,
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "open",
                table: "workshops",
                type: "jsonb",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "backup_stands",
                columns: table => new
                {
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    tried_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    made_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    file_name = table.Column<string>(type: "character varying(255)", maxLength: 255, nullable: true),
                    bytes = table.Column<long>(type: "bigint", nullable: false),
                    problem = table.Column<string>(type: "character varying(500)", maxLength: 500, nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_backup_stands", x => x.workshop_id);
                    table.ForeignKey(
                        name: "fk_backup_stands_workshops_workshop_id",
                        column: x => x.workshop_id,
                        principalTable: "workshops",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "backup_stands");

            migrationBuilder.DropColumn(
                name: "backup_at",
                table: "workshops");

            migrationBuilder.DropColumn(
                name: "backups_kept",
                table: "workshops");

            migrationBuilder.DropColumn(
                name: "logo_sha256",
                table: "workshops");

            migrationBuilder.DropColumn(
                name: "open",
                table: "workshops");
        }
    }
}
