using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Remedos.Data.Migrations
{
    /// <inheritdoc />
    public partial class Bundles : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_papers_workshop_id_kind_number",
                table: "papers");

            migrationBuilder.RenameColumn(
                name: "paper",
                table: "workshops",
                newName: "paper_size");

            migrationBuilder.AddColumn<string>(
                name: "from",
                table: "people",
                type: "character varying(200)",
                maxLength: 200,
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "from",
                table: "papers",
                type: "character varying(200)",
                maxLength: 200,
                nullable: true);

            migrationBuilder.CreateIndex(
                name: "ix_papers_workshop_id_kind_number",
                table: "papers",
                columns: new[] { "workshop_id", "kind", "number" },
                unique: true,
                filter: "\"from\" IS NULL");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_papers_workshop_id_kind_number",
                table: "papers");

            migrationBuilder.DropColumn(
                name: "from",
                table: "people");

            migrationBuilder.DropColumn(
                name: "from",
                table: "papers");

            migrationBuilder.RenameColumn(
                name: "paper_size",
                table: "workshops",
                newName: "paper");

            migrationBuilder.CreateIndex(
                name: "ix_papers_workshop_id_kind_number",
                table: "papers",
                columns: new[] { "workshop_id", "kind", "number" },
                unique: true);
        }
    }
}
