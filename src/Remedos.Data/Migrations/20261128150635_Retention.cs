using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Remedos.Data.Migrations
{
    /// <inheritdoc />
    public partial class Retention : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "forget_owners_after_months",
                table: "workshops",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "keep_access_months",
                table: "workshops",
                type: "integer",
                nullable: false,
                defaultValue: 12);

            migrationBuilder.AddColumn<int>(
                name: "keep_bills_years",
                table: "workshops",
                type: "integer",
                nullable: false,
                defaultValue: 10);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "forget_owners_after_months",
                table: "workshops");

            migrationBuilder.DropColumn(
                name: "keep_access_months",
                table: "workshops");

            migrationBuilder.DropColumn(
                name: "keep_bills_years",
                table: "workshops");
        }
    }
}
