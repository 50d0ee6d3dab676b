using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Remedos.Data.Migrations
{
    /// <inheritdoc />
    public partial class SeriesAges : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_series_shares_workshop_id_series",
                table: "series_shares");

            migrationBuilder.AddColumn<string>(
                name: "ages",
                table: "series_totals",
                type: "jsonb",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.CreateIndex(
                name: "ix_series_shares_workshop_id_series_number",
                table: "series_shares",
                columns: new[] { "workshop_id", "series", "number" });

            // The ages are reckoned at the next start.
            migrationBuilder.Sql("UPDATE record_stands SET revision = 0");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_series_shares_workshop_id_series_number",
                table: "series_shares");

            migrationBuilder.DropColumn(
                name: "ages",
                table: "series_totals");

            migrationBuilder.CreateIndex(
                name: "ix_series_shares_workshop_id_series",
                table: "series_shares",
                columns: new[] { "workshop_id", "series" });
        }
    }
}
