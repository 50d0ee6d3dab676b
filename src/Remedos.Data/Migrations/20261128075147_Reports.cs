using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Remedos.Data.Migrations
{
    /// <inheritdoc />
    public partial class Reports : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "address",
                table: "workshops",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "next_bill_number",
                table: "workshops",
                type: "integer",
                nullable: false,
                defaultValue: 1);

            migrationBuilder.AddColumn<int>(
                name: "next_quote_number",
                table: "workshops",
                type: "integer",
                nullable: false,
                defaultValue: 1);

            migrationBuilder.AddColumn<string>(
                name: "paper",
                table: "workshops",
                type: "text",
                nullable: false,
                defaultValue: "a4");

            migrationBuilder.CreateTable(
                name: "papers",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(10)", maxLength: 10, nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    made_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    statement = table.Column<string>(type: "jsonb", nullable: false),
                    yes_by = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    yes_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    voided_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    voided_why = table.Column<string>(type: "text", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_papers", x => new { x.workshop_id, x.id });
                    table.CheckConstraint("ck_papers_kind", "kind IN ('quote', 'bill') AND number >= 1");
                    table.ForeignKey(
                        name: "fk_papers_jobs_workshop_id_job_id",
                        columns: x => new { x.workshop_id, x.job_id },
                        principalTable: "jobs",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_papers_people_workshop_id_person_id",
                        columns: x => new { x.workshop_id, x.person_id },
                        principalTable: "people",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "report_links",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    token_sha256 = table.Column<string>(type: "character(64)", fixedLength: true, maxLength: 64, nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    made_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    expires_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    withdrawn_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    openings = table.Column<int>(type: "integer", nullable: false),
                    last_opened_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    headline = table.Column<string>(type: "text", nullable: false),
                    pdf_sha256 = table.Column<string>(type: "character(64)", fixedLength: true, maxLength: 64, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_report_links", x => new { x.workshop_id, x.id });
                    table.ForeignKey(
                        name: "fk_report_links_jobs_workshop_id_job_id",
                        columns: x => new { x.workshop_id, x.job_id },
                        principalTable: "jobs",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_report_links_people_workshop_id_person_id",
                        columns: x => new { x.workshop_id, x.person_id },
                        principalTable: "people",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_papers_workshop_id_job_id",
                table: "papers",
                columns: new[] { "workshop_id", "job_id" });

            migrationBuilder.CreateIndex(
                name: "ix_papers_workshop_id_kind_number",
                table: "papers",
                columns: new[] { "workshop_id", "kind", "number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_papers_workshop_id_person_id",
                table: "papers",
                columns: new[] { "workshop_id", "person_id" });

            migrationBuilder.CreateIndex(
                name: "ix_report_links_token_sha256",
                table: "report_links",
                column: "token_sha256");

            migrationBuilder.CreateIndex(
                name: "ix_report_links_workshop_id_job_id",
                table: "report_links",
                columns: new[] { "workshop_id", "job_id" });

            migrationBuilder.CreateIndex(
                name: "ix_report_links_workshop_id_person_id",
                table: "report_links",
                columns: new[] { "workshop_id", "person_id" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "papers");

            migrationBuilder.DropTable(
                name: "report_links");

            migrationBuilder.DropColumn(
                name: "address",
                table: "workshops");

            migrationBuilder.DropColumn(
                name: "next_bill_number",
                table: "workshops");

            migrationBuilder.DropColumn(
                name: "next_quote_number",
                table: "workshops");

            migrationBuilder.DropColumn(
                name: "paper",
                table: "workshops");
        }
    }
}
