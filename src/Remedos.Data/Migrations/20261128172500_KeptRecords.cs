using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Remedos.Data.Migrations
{
    /// <inheritdoc />
    public partial class KeptRecords : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_jobs_workshop_id_serial",
                table: "jobs");

            migrationBuilder.AlterDatabase()
                .Annotation("Npgsql:PostgresExtension:pg_trgm", ",,");

            migrationBuilder.AddColumn<string>(
                name: "found",
                table: "jobs",
                type: "text",
                nullable: true,
                computedColumnSql: "lower(coalesce(owner, '') || ' ' || coalesce(machine, '') || ' ' || coalesce(serial, '') || ' ' || coalesce(noticed, '')\n    || ' ' || coalesce(contact, '') || ' #' || lpad(number::text, greatest(4, length(number::text)), '0'))",
                stored: true);

            migrationBuilder.AddColumn<string>(
                name: "owner_key",
                table: "jobs",
                type: "text",
                nullable: true,
                computedColumnSql: "lower(btrim(owner))",
                stored: true);

            migrationBuilder.AddColumn<string>(
                name: "serial_key",
                table: "jobs",
                type: "text",
                nullable: true,
                computedColumnSql: "lower(btrim(serial))",
                stored: true);

            migrationBuilder.CreateTable(
                name: "kept_tags",
                columns: table => new
                {
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    job_version = table.Column<long>(type: "bigint", nullable: false),
                    revision = table.Column<long>(type: "bigint", nullable: false),
                    day = table.Column<DateOnly>(type: "date", nullable: false),
                    waits_for = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    headline = table.Column<string>(type: "jsonb", nullable: false),
                    now = table.Column<string>(type: "text", nullable: false),
                    staircase = table.Column<string>(type: "jsonb", nullable: true),
                    temperature_limit_c = table.Column<double>(type: "double precision", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_kept_tags", x => new { x.workshop_id, x.job_id });
                    table.ForeignKey(
                        name: "fk_kept_tags_jobs_workshop_id_job_id",
                        columns: x => new { x.workshop_id, x.job_id },
                        principalTable: "jobs",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "league_shares",
                columns: table => new
                {
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    cooler = table.Column<string>(type: "text", nullable: false),
                    log_ratio = table.Column<double>(type: "double precision", nullable: false),
                    runs = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_league_shares", x => new { x.workshop_id, x.job_id, x.cooler });
                    table.ForeignKey(
                        name: "fk_league_shares_jobs_workshop_id_job_id",
                        columns: x => new { x.workshop_id, x.job_id },
                        principalTable: "jobs",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "league_totals",
                columns: table => new
                {
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    cooler = table.Column<string>(type: "text", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    entry = table.Column<string>(type: "jsonb", nullable: false),
                    before = table.Column<string>(type: "jsonb", nullable: true),
                    moved_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    moved_by = table.Column<Guid>(type: "uuid", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_league_totals", x => new { x.workshop_id, x.cooler });
                    table.ForeignKey(
                        name: "fk_league_totals_workshops_workshop_id",
                        column: x => x.workshop_id,
                        principalTable: "workshops",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "record_stands",
                columns: table => new
                {
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    revision = table.Column<long>(type: "bigint", nullable: false),
                    mount_squares = table.Column<double>(type: "double precision", nullable: false),
                    mount_degrees = table.Column<double>(type: "double precision", nullable: false),
                    within_squares = table.Column<double>(type: "double precision", nullable: false),
                    within_degrees = table.Column<double>(type: "double precision", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_record_stands", x => x.workshop_id);
                    table.ForeignKey(
                        name: "fk_record_stands_workshops_workshop_id",
                        column: x => x.workshop_id,
                        principalTable: "workshops",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "series_shares",
                columns: table => new
                {
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    series = table.Column<string>(type: "text", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    causes = table.Column<string>(type: "jsonb", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    came_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    since = table.Column<DateOnly>(type: "date", nullable: true),
                    serial = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_series_shares", x => new { x.workshop_id, x.job_id });
                    table.ForeignKey(
                        name: "fk_series_shares_jobs_workshop_id_job_id",
                        columns: x => new { x.workshop_id, x.job_id },
                        principalTable: "jobs",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "series_totals",
                columns: table => new
                {
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    series = table.Column<string>(type: "text", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    machines = table.Column<int>(type: "integer", nullable: false),
                    causes = table.Column<string>(type: "jsonb", nullable: false),
                    wear = table.Column<string>(type: "jsonb", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_series_totals", x => new { x.workshop_id, x.series });
                    table.ForeignKey(
                        name: "fk_series_totals_workshops_workshop_id",
                        column: x => x.workshop_id,
                        principalTable: "workshops",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_jobs_workshop_id_changed_at_id",
                table: "jobs",
                columns: new[] { "workshop_id", "changed_at", "id" },
                filter: "handed_over_at IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "ix_jobs_workshop_id_changed_at_id1",
                table: "jobs",
                columns: new[] { "workshop_id", "changed_at", "id" },
                filter: "handed_over_at IS NULL");

            migrationBuilder.CreateIndex(
                name: "ix_jobs_found",
                table: "jobs",
                column: "found")
                .Annotation("Npgsql:IndexMethod", "gin")
                .Annotation("Npgsql:IndexOperators", new[] { "gin_trgm_ops" });

            migrationBuilder.CreateIndex(
                name: "ix_jobs_workshop_id_owner_key_number",
                table: "jobs",
                columns: new[] { "workshop_id", "owner_key", "number" });

            migrationBuilder.CreateIndex(
                name: "ix_jobs_workshop_id_recheck_on",
                table: "jobs",
                columns: new[] { "workshop_id", "recheck_on" },
                filter: "recheck_on IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "ix_jobs_workshop_id_serial_key_number",
                table: "jobs",
                columns: new[] { "workshop_id", "serial_key", "number" });

            migrationBuilder.CreateIndex(
                name: "ix_league_shares_workshop_id_cooler",
                table: "league_shares",
                columns: new[] { "workshop_id", "cooler" });

            migrationBuilder.CreateIndex(
                name: "ix_series_shares_workshop_id_series",
                table: "series_shares",
                columns: new[] { "workshop_id", "series" });

            // What benches have shown stands already; the rest is reckoned at the next start, for which revision 0 asks.
            migrationBuilder.Sql(
                """
                INSERT INTO record_stands (workshop_id, revision, mount_squares, mount_degrees, within_squares, within_degrees)
                SELECT w.id, 0, coalesce(sum(s.mount_squares), 0), coalesce(sum(s.mount_degrees), 0),
                       coalesce(sum(s.within_squares), 0), coalesce(sum(s.within_degrees), 0)
                FROM workshops w LEFT JOIN bench_scatters s ON s.workshop_id = w.id GROUP BY w.id
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "kept_tags");

            migrationBuilder.DropTable(
                name: "league_shares");

            migrationBuilder.DropTable(
                name: "league_totals");

            migrationBuilder.DropTable(
                name: "record_stands");

            migrationBuilder.DropTable(
                name: "series_shares");

            migrationBuilder.DropTable(
                name: "series_totals");

            migrationBuilder.DropIndex(
                name: "ix_jobs_workshop_id_changed_at_id",
                table: "jobs");

            migrationBuilder.DropIndex(
                name: "ix_jobs_workshop_id_changed_at_id1",
                table: "jobs");

            migrationBuilder.DropIndex(
                name: "ix_jobs_found",
                table: "jobs");

            migrationBuilder.DropIndex(
                name: "ix_jobs_workshop_id_owner_key_number",
                table: "jobs");

            migrationBuilder.DropIndex(
                name: "ix_jobs_workshop_id_recheck_on",
                table: "jobs");

            migrationBuilder.DropIndex(
                name: "ix_jobs_workshop_id_serial_key_number",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "found",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "owner_key",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "serial_key",
                table: "jobs");

            migrationBuilder.AlterDatabase()
                .OldAnnotation("Npgsql:PostgresExtension:btree_gin", ",,")
                .OldAnnotation("Npgsql:PostgresExtension:pg_trgm", ",,");

            migrationBuilder.CreateIndex(
                name: "ix_jobs_workshop_id_serial",
                table: "jobs",
                columns: new[] { "workshop_id", "serial" });
        }
    }
}
