using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Remedos.Data.Migrations
{
    /// <inheritdoc />
    public partial class RunsOfOneLog : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "analysis_version",
                table: "runs",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<string>(
                name: "marks",
                table: "runs",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'[]'");

            migrationBuilder.AddColumn<string>(
                name: "stretch",
                table: "runs",
                type: "jsonb",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "problem_code",
                table: "imports",
                type: "character varying(40)",
                maxLength: 40,
                nullable: true);

            migrationBuilder.CreateIndex(
                name: "ix_runs_analysis_version",
                table: "runs",
                column: "analysis_version");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_runs_analysis_version",
                table: "runs");

            migrationBuilder.DropColumn(
                name: "analysis_version",
                table: "runs");

            migrationBuilder.DropColumn(
                name: "marks",
                table: "runs");

            migrationBuilder.DropColumn(
                name: "stretch",
                table: "runs");

            migrationBuilder.DropColumn(
                name: "problem_code",
                table: "imports");
        }
    }
}
