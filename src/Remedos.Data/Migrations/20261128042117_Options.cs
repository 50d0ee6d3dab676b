using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Remedos.Data.Migrations
{
    /// <inheritdoc />
    public partial class Options : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<double>(
                name: "most_price_share_percent",
                table: "workshops",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "choice",
                table: "jobs",
                type: "jsonb",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "most_price_share_percent",
                table: "workshops");

            migrationBuilder.DropColumn(
                name: "choice",
                table: "jobs");
        }
    }
}
