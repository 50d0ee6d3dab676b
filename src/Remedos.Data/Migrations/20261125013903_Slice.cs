using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Remedos.Data.Migrations
{
    /// <inheritdoc />
    public partial class Slice : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "data_protection_keys",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    friendly_name = table.Column<string>(type: "text", nullable: true),
                    xml = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_data_protection_keys", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "workshops",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: false),
                    tag_prefix = table.Column<string>(type: "character varying(8)", maxLength: 8, nullable: false),
                    currency = table.Column<string>(type: "character varying(3)", maxLength: 3, nullable: false),
                    next_job_number = table.Column<int>(type: "integer", nullable: false),
                    repeatability_c = table.Column<double>(type: "double precision", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_workshops", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "jobs",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    created_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    changed_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    owner = table.Column<string>(type: "text", nullable: true),
                    contact = table.Column<string>(type: "text", nullable: true),
                    machine = table.Column<string>(type: "text", nullable: true),
                    serial = table.Column<string>(type: "text", nullable: true),
                    noticed = table.Column<string>(type: "text", nullable: true),
                    room_c = table.Column<double>(type: "double precision", nullable: true),
                    temperature_limit_c = table.Column<double>(type: "double precision", nullable: true),
                    rated_power_w = table.Column<double>(type: "double precision", nullable: true),
                    cooler_kind = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    waiting_for = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    repair_found = table.Column<string>(type: "text", nullable: true),
                    repair_done = table.Column<string>(type: "text", nullable: true),
                    repair_parts = table.Column<string>(type: "text", nullable: true),
                    repair_minutes = table.Column<int>(type: "integer", nullable: true),
                    repair_paste = table.Column<string>(type: "text", nullable: true),
                    repair_paste_method = table.Column<string>(type: "text", nullable: true),
                    repair_cooler_kind = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    repair_mounted_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    handed_over_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    recheck_on = table.Column<DateOnly>(type: "date", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_jobs", x => x.id);
                    table.CheckConstraint("ck_jobs_rated_power_w", "rated_power_w > 0");
                    table.CheckConstraint("ck_jobs_temperature_limit_c", "temperature_limit_c BETWEEN 40 AND 130");
                    table.CheckConstraint("ck_jobs_waiting_for", "waiting_for IN ('owner', 'part')");
                    table.ForeignKey(
                        name: "fk_jobs_workshops_workshop_id",
                        column: x => x.workshop_id,
                        principalTable: "workshops",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "log_files",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "character varying(255)", maxLength: 255, nullable: false),
                    sha256 = table.Column<string>(type: "character(64)", fixedLength: true, maxLength: 64, nullable: false),
                    bytes = table.Column<long>(type: "bigint", nullable: false),
                    stored_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_log_files", x => x.id);
                    table.ForeignKey(
                        name: "fk_log_files_workshops_workshop_id",
                        column: x => x.workshop_id,
                        principalTable: "workshops",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "people",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_people", x => x.id);
                    table.ForeignKey(
                        name: "fk_people_workshops_workshop_id",
                        column: x => x.workshop_id,
                        principalTable: "workshops",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "remembered_roles",
                columns: table => new
                {
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    fingerprint = table.Column<string>(type: "character varying(64)", maxLength: 64, nullable: false),
                    roles = table.Column<string>(type: "jsonb", nullable: false),
                    changed_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_remembered_roles", x => new { x.workshop_id, x.fingerprint });
                    table.ForeignKey(
                        name: "fk_remembered_roles_workshops_workshop_id",
                        column: x => x.workshop_id,
                        principalTable: "workshops",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "imports",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    log_file_id = table.Column<Guid>(type: "uuid", nullable: false),
                    side = table.Column<string>(type: "character varying(10)", maxLength: 10, nullable: false),
                    conditions = table.Column<string>(type: "jsonb", nullable: false),
                    state = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    bytes_read = table.Column<long>(type: "bigint", nullable: false),
                    problem = table.Column<string>(type: "text", nullable: true),
                    run_id = table.Column<Guid>(type: "uuid", nullable: true),
                    cancel_requested = table.Column<bool>(type: "boolean", nullable: false),
                    created_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    lease_until = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_imports", x => x.id);
                    table.CheckConstraint("ck_imports_state", "state IN ('queued', 'reading', 'done', 'failed', 'cancelled')");
                    table.ForeignKey(
                        name: "fk_imports_jobs_job_id",
                        column: x => x.job_id,
                        principalTable: "jobs",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_imports_log_files_log_file_id",
                        column: x => x.log_file_id,
                        principalTable: "log_files",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "runs",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    log_file_id = table.Column<Guid>(type: "uuid", nullable: false),
                    side = table.Column<string>(type: "character varying(10)", maxLength: 10, nullable: false),
                    imported_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    rows = table.Column<int>(type: "integer", nullable: false),
                    conditions = table.Column<string>(type: "jsonb", nullable: false),
                    analysis = table.Column<string>(type: "jsonb", nullable: false),
                    removed_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_runs", x => x.id);
                    table.CheckConstraint("ck_runs_side", "side IN ('before', 'after')");
                    table.ForeignKey(
                        name: "fk_runs_jobs_job_id",
                        column: x => x.job_id,
                        principalTable: "jobs",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_runs_log_files_log_file_id",
                        column: x => x.log_file_id,
                        principalTable: "log_files",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "job_events",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    kind = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    subject = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: true),
                    before = table.Column<string>(type: "jsonb", nullable: true),
                    after = table.Column<string>(type: "jsonb", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_job_events", x => x.id);
                    table.ForeignKey(
                        name: "fk_job_events_jobs_job_id",
                        column: x => x.job_id,
                        principalTable: "jobs",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_job_events_people_person_id",
                        column: x => x.person_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "sample_chunks",
                columns: table => new
                {
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    run_id = table.Column<Guid>(type: "uuid", nullable: false),
                    level = table.Column<short>(type: "smallint", nullable: false),
                    channel = table.Column<short>(type: "smallint", nullable: false),
                    chunk = table.Column<int>(type: "integer", nullable: false),
                    values = table.Column<float[]>(type: "real[]", nullable: false),
                    lows = table.Column<float[]>(type: "real[]", nullable: false),
                    highs = table.Column<float[]>(type: "real[]", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_sample_chunks", x => new { x.workshop_id, x.run_id, x.level, x.channel, x.chunk });
                    table.ForeignKey(
                        name: "fk_sample_chunks_runs_run_id",
                        column: x => x.run_id,
                        principalTable: "runs",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "time_chunks",
                columns: table => new
                {
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    run_id = table.Column<Guid>(type: "uuid", nullable: false),
                    level = table.Column<short>(type: "smallint", nullable: false),
                    chunk = table.Column<int>(type: "integer", nullable: false),
                    seconds = table.Column<double[]>(type: "double precision[]", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_time_chunks", x => new { x.workshop_id, x.run_id, x.level, x.chunk });
                    table.ForeignKey(
                        name: "fk_time_chunks_runs_run_id",
                        column: x => x.run_id,
                        principalTable: "runs",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_imports_job_id",
                table: "imports",
                column: "job_id");

            migrationBuilder.CreateIndex(
                name: "ix_imports_log_file_id",
                table: "imports",
                column: "log_file_id");

            migrationBuilder.CreateIndex(
                name: "ix_imports_state_created_at",
                table: "imports",
                columns: new[] { "state", "created_at" });

            migrationBuilder.CreateIndex(
                name: "ix_job_events_job_id_id",
                table: "job_events",
                columns: new[] { "job_id", "id" });

            migrationBuilder.CreateIndex(
                name: "ix_job_events_person_id",
                table: "job_events",
                column: "person_id");

            migrationBuilder.CreateIndex(
                name: "ix_jobs_workshop_id_number",
                table: "jobs",
                columns: new[] { "workshop_id", "number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_log_files_workshop_id_sha256",
                table: "log_files",
                columns: new[] { "workshop_id", "sha256" });

            migrationBuilder.CreateIndex(
                name: "ix_people_workshop_id",
                table: "people",
                column: "workshop_id");

            migrationBuilder.CreateIndex(
                name: "ix_runs_job_id",
                table: "runs",
                column: "job_id");

            migrationBuilder.CreateIndex(
                name: "ix_runs_log_file_id",
                table: "runs",
                column: "log_file_id");

            migrationBuilder.CreateIndex(
                name: "ix_runs_workshop_id_job_id",
                table: "runs",
                columns: new[] { "workshop_id", "job_id" });

            migrationBuilder.CreateIndex(
                name: "ix_sample_chunks_run_id",
                table: "sample_chunks",
                column: "run_id");

            migrationBuilder.CreateIndex(
                name: "ix_time_chunks_run_id",
                table: "time_chunks",
                column: "run_id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "data_protection_keys");

            migrationBuilder.DropTable(
                name: "imports");

            migrationBuilder.DropTable(
                name: "job_events");

            migrationBuilder.DropTable(
                name: "remembered_roles");

            migrationBuilder.DropTable(
                name: "sample_chunks");

            migrationBuilder.DropTable(
                name: "time_chunks");

            migrationBuilder.DropTable(
                name: "people");

            migrationBuilder.DropTable(
                name: "runs");

            migrationBuilder.DropTable(
                name: "jobs");

            migrationBuilder.DropTable(
                name: "log_files");

            migrationBuilder.DropTable(
                name: "workshops");
        }
    }
}
