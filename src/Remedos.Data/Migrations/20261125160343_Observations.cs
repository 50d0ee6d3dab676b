using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Remedos.Data.Migrations
{
    /// <inheritdoc />
    public partial class Observations : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<DateOnly>(
                name: "built_on",
                table: "jobs",
                type: "date",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "observations",
                table: "jobs",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'[]'");

            migrationBuilder.AddColumn<string>(
                name: "origin",
                table: "jobs",
                type: "character varying(20)",
                maxLength: 20,
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "setting",
                table: "jobs",
                type: "character varying(40)",
                maxLength: 40,
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "built_on",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "observations",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "origin",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "setting",
                table: "jobs");
        }
    }
}
