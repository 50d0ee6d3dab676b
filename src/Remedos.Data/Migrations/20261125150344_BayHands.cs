using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Remedos.Data.Migrations
{
    /// <inheritdoc />
    public partial class BayHands : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AlterTable(
                name: "bays")
                .Annotation("Npgsql:StorageParameter:fillfactor", 30);

            migrationBuilder.AddColumn<string>(
                name: "hands",
                table: "bays",
                type: "jsonb",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "note",
                table: "bays",
                type: "character varying(300)",
                maxLength: 300,
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "sender",
                table: "bays",
                type: "jsonb",
                nullable: true);

            migrationBuilder.CreateIndex(
                name: "ix_bays_number",
                table: "bays",
                column: "number");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_bays_number",
                table: "bays");

            migrationBuilder.DropColumn(
                name: "hands",
                table: "bays");

            migrationBuilder.DropColumn(
                name: "note",
                table: "bays");

            migrationBuilder.DropColumn(
                name: "sender",
                table: "bays");

            migrationBuilder.AlterTable(
                name: "bays")
                .OldAnnotation("Npgsql:StorageParameter:fillfactor", 30);
        }
    }
}
