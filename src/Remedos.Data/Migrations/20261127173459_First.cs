using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Remedos.Data.Migrations
{
    /// <inheritdoc />
    public partial class First : Migration
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
                name: "installations",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false),
                    store_id = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_installations", x => x.id);
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
                    labour_minor_per_hour = table.Column<long>(type: "bigint", nullable: false),
                    tax_percent = table.Column<double>(type: "double precision", nullable: false),
                    weights = table.Column<string>(type: "jsonb", nullable: true),
                    time_zone = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_workshops", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "bays",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    token_sha256 = table.Column<string>(type: "character(64)", fixedLength: true, maxLength: 64, nullable: false),
                    stream = table.Column<string>(type: "character varying(64)", maxLength: 64, nullable: true),
                    recording = table.Column<long>(type: "bigint", nullable: false),
                    acknowledged = table.Column<long>(type: "bigint", nullable: false),
                    last_seen_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    sender = table.Column<string>(type: "jsonb", nullable: true),
                    hands = table.Column<string>(type: "jsonb", nullable: true),
                    note = table.Column<string>(type: "character varying(300)", maxLength: 300, nullable: true),
                    run = table.Column<string>(type: "jsonb", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_bays", x => new { x.workshop_id, x.id });
                    table.ForeignKey(
                        name: "fk_bays_workshops_workshop_id",
                        column: x => x.workshop_id,
                        principalTable: "workshops",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                })
                .Annotation("Npgsql:StorageParameter:fillfactor", 30);

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
                    built_on = table.Column<DateOnly>(type: "date", nullable: true),
                    origin = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: true),
                    setting = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    parts_processor = table.Column<string>(type: "text", nullable: true),
                    parts_board = table.Column<string>(type: "text", nullable: true),
                    parts_memory = table.Column<string>(type: "text", nullable: true),
                    parts_memory_height_mm = table.Column<double>(type: "double precision", nullable: true),
                    parts_graphics = table.Column<string>(type: "text", nullable: true),
                    parts_case = table.Column<string>(type: "text", nullable: true),
                    parts_cooler = table.Column<string>(type: "text", nullable: true),
                    parts_fans = table.Column<string>(type: "text", nullable: true),
                    parts_fans_steered_by = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: true),
                    warranty_purchased_on = table.Column<DateOnly>(type: "date", nullable: true),
                    warranty_months = table.Column<int>(type: "integer", nullable: true),
                    warranty_ended_by = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: true),
                    warranty_route = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: true),
                    done_before = table.Column<string>(type: "text", nullable: true),
                    last_done = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    tube_one_c = table.Column<double>(type: "double precision", nullable: true),
                    tube_other_c = table.Column<double>(type: "double precision", nullable: true),
                    observations = table.Column<string>(type: "jsonb", nullable: false, defaultValueSql: "'[]'"),
                    air_plan = table.Column<string>(type: "jsonb", nullable: true),
                    decision_route = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: true),
                    waiting_for = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    repair_causes = table.Column<string>(type: "jsonb", nullable: false, defaultValueSql: "'[]'"),
                    repair_found = table.Column<string>(type: "text", nullable: true),
                    repair_done = table.Column<string>(type: "text", nullable: true),
                    repair_parts = table.Column<string>(type: "text", nullable: true),
                    repair_minutes = table.Column<int>(type: "integer", nullable: true),
                    repair_cooler = table.Column<string>(type: "text", nullable: true),
                    wish = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: true),
                    round = table.Column<int>(type: "integer", nullable: false),
                    handed_over_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    recheck_on = table.Column<DateOnly>(type: "date", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_jobs", x => new { x.workshop_id, x.id });
                    table.CheckConstraint("ck_jobs_rated_power_w", "rated_power_w > 0");
                    table.CheckConstraint("ck_jobs_temperature_limit_c", "temperature_limit_c BETWEEN 40 AND 130");
                    table.CheckConstraint("ck_jobs_waiting_for", "waiting_for IN ('owner', 'part')");
                    table.ForeignKey(
                        name: "fk_jobs_workshops_workshop_id",
                        column: x => x.workshop_id,
                        principalTable: "workshops",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
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
                    table.PrimaryKey("pk_log_files", x => new { x.workshop_id, x.id });
                    table.ForeignKey(
                        name: "fk_log_files_workshops_workshop_id",
                        column: x => x.workshop_id,
                        principalTable: "workshops",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "parts",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    name = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: false),
                    values = table.Column<string>(type: "jsonb", nullable: false),
                    changed_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    retired_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
                    name_key = table.Column<string>(type: "text", nullable: true, computedColumnSql: "lower(name)", stored: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_parts", x => new { x.workshop_id, x.id });
                    table.ForeignKey(
                        name: "fk_parts_workshops_workshop_id",
                        column: x => x.workshop_id,
                        principalTable: "workshops",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
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
                    table.PrimaryKey("pk_people", x => new { x.workshop_id, x.id });
                    table.ForeignKey(
                        name: "fk_people_workshops_workshop_id",
                        column: x => x.workshop_id,
                        principalTable: "workshops",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
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
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "work_items",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    subject_id = table.Column<Guid>(type: "uuid", nullable: false),
                    payload = table.Column<string>(type: "jsonb", nullable: true),
                    urgency = table.Column<short>(type: "smallint", nullable: false),
                    weight = table.Column<long>(type: "bigint", nullable: false),
                    created_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    not_before = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    attempts = table.Column<int>(type: "integer", nullable: false),
                    lease_owner = table.Column<Guid>(type: "uuid", nullable: true),
                    lease_until = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    last_error = table.Column<string>(type: "text", nullable: true),
                    set_aside_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_work_items", x => new { x.workshop_id, x.id });
                    table.ForeignKey(
                        name: "fk_work_items_workshops_workshop_id",
                        column: x => x.workshop_id,
                        principalTable: "workshops",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "bay_batches",
                columns: table => new
                {
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    bay_id = table.Column<Guid>(type: "uuid", nullable: false),
                    recording = table.Column<long>(type: "bigint", nullable: false),
                    first_sequence = table.Column<long>(type: "bigint", nullable: false),
                    last_sequence = table.Column<long>(type: "bigint", nullable: false),
                    lines = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_bay_batches", x => new { x.workshop_id, x.bay_id, x.recording, x.first_sequence });
                    table.ForeignKey(
                        name: "fk_bay_batches_bays_workshop_id_bay_id",
                        columns: x => new { x.workshop_id, x.bay_id },
                        principalTable: "bays",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "bench_scatters",
                columns: table => new
                {
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    mount_squares = table.Column<double>(type: "double precision", nullable: false),
                    mount_degrees = table.Column<double>(type: "double precision", nullable: false),
                    within_squares = table.Column<double>(type: "double precision", nullable: false),
                    within_degrees = table.Column<double>(type: "double precision", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_bench_scatters", x => new { x.workshop_id, x.job_id });
                    table.ForeignKey(
                        name: "fk_bench_scatters_jobs_workshop_id_job_id",
                        columns: x => new { x.workshop_id, x.job_id },
                        principalTable: "jobs",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "rounds",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    reason = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    verdict = table.Column<string>(type: "text", nullable: true),
                    note = table.Column<string>(type: "jsonb", nullable: false),
                    closed_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    removed_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_rounds", x => new { x.workshop_id, x.id });
                    table.ForeignKey(
                        name: "fk_rounds_jobs_workshop_id_job_id",
                        columns: x => new { x.workshop_id, x.job_id },
                        principalTable: "jobs",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "setups",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    round = table.Column<int>(type: "integer", nullable: false),
                    kind = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    like_number = table.Column<int>(type: "integer", nullable: true),
                    difference_cooler = table.Column<string>(type: "text", nullable: true),
                    difference_cooler_kind = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    difference_paste = table.Column<string>(type: "text", nullable: true),
                    difference_paste_method = table.Column<string>(type: "text", nullable: true),
                    difference_mounting_kit = table.Column<string>(type: "text", nullable: true),
                    difference_fans = table.Column<string>(type: "text", nullable: true),
                    difference_steering = table.Column<string>(type: "text", nullable: true),
                    difference_case_air = table.Column<string>(type: "text", nullable: true),
                    difference_settings = table.Column<string>(type: "text", nullable: true),
                    difference_card_paste = table.Column<string>(type: "text", nullable: true),
                    difference_changed = table.Column<string>(type: "text", nullable: true),
                    price_minor = table.Column<long>(type: "bigint", nullable: true),
                    failed_why = table.Column<string>(type: "text", nullable: true),
                    created_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    removed_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_setups", x => new { x.workshop_id, x.id });
                    table.CheckConstraint("ck_setups_kind", "kind IN ('as-it-came', 'repair', 'other-cooler', 'other-paste', 'fans', 'setting', 'card')");
                    table.CheckConstraint("ck_setups_number", "number >= 1 AND round >= 1 AND like_number < number");
                    table.ForeignKey(
                        name: "fk_setups_jobs_workshop_id_job_id",
                        columns: x => new { x.workshop_id, x.job_id },
                        principalTable: "jobs",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "job_events",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityAlwaysColumn),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    kind = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    subject = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: true),
                    before = table.Column<string>(type: "jsonb", nullable: true),
                    after = table.Column<string>(type: "jsonb", nullable: true),
                    undoes = table.Column<long>(type: "bigint", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_job_events", x => new { x.workshop_id, x.id });
                    table.ForeignKey(
                        name: "fk_job_events_jobs_workshop_id_job_id",
                        columns: x => new { x.workshop_id, x.job_id },
                        principalTable: "jobs",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_job_events_people_workshop_id_person_id",
                        columns: x => new { x.workshop_id, x.person_id },
                        principalTable: "people",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "job_photos",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(10)", maxLength: 10, nullable: false),
                    name = table.Column<string>(type: "character varying(255)", maxLength: 255, nullable: false),
                    media_type = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    given_sha256 = table.Column<string>(type: "character(64)", fixedLength: true, maxLength: 64, nullable: false),
                    sha256 = table.Column<string>(type: "character(64)", fixedLength: true, maxLength: 64, nullable: false),
                    thumbnail_sha256 = table.Column<string>(type: "character(64)", fixedLength: true, maxLength: 64, nullable: false),
                    bytes = table.Column<long>(type: "bigint", nullable: false),
                    added_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    removed_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_job_photos", x => new { x.workshop_id, x.id });
                    table.CheckConstraint("ck_job_photos_kind", "kind IN ('photo', 'proof')");
                    table.ForeignKey(
                        name: "fk_job_photos_jobs_workshop_id_job_id",
                        columns: x => new { x.workshop_id, x.job_id },
                        principalTable: "jobs",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_job_photos_people_workshop_id_person_id",
                        columns: x => new { x.workshop_id, x.person_id },
                        principalTable: "people",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "part_events",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityAlwaysColumn),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    part_id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    kind = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    before = table.Column<string>(type: "jsonb", nullable: true),
                    after = table.Column<string>(type: "jsonb", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_part_events", x => new { x.workshop_id, x.id });
                    table.ForeignKey(
                        name: "fk_part_events_parts_workshop_id_part_id",
                        columns: x => new { x.workshop_id, x.part_id },
                        principalTable: "parts",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_part_events_people_workshop_id_person_id",
                        columns: x => new { x.workshop_id, x.person_id },
                        principalTable: "people",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "workshop_events",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityAlwaysColumn),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    kind = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    subject = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: true),
                    before = table.Column<string>(type: "jsonb", nullable: true),
                    after = table.Column<string>(type: "jsonb", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_workshop_events", x => new { x.workshop_id, x.id });
                    table.ForeignKey(
                        name: "fk_workshop_events_people_workshop_id_person_id",
                        columns: x => new { x.workshop_id, x.person_id },
                        principalTable: "people",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_workshop_events_workshops_workshop_id",
                        column: x => x.workshop_id,
                        principalTable: "workshops",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "mounts",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    setup_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    mounted_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    print = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: true),
                    torque = table.Column<string>(type: "text", nullable: true),
                    minutes = table.Column<int>(type: "integer", nullable: true),
                    created_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    removed_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_mounts", x => new { x.workshop_id, x.id });
                    table.ForeignKey(
                        name: "fk_mounts_jobs_workshop_id_job_id",
                        columns: x => new { x.workshop_id, x.job_id },
                        principalTable: "jobs",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_mounts_setups_workshop_id_setup_id",
                        columns: x => new { x.workshop_id, x.setup_id },
                        principalTable: "setups",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
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
                    sha256 = table.Column<string>(type: "character(64)", fixedLength: true, maxLength: 64, nullable: false),
                    mount_id = table.Column<Guid>(type: "uuid", nullable: false),
                    conditions = table.Column<string>(type: "jsonb", nullable: false),
                    marks = table.Column<string>(type: "jsonb", nullable: false, defaultValueSql: "'[]'"),
                    state = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    bytes_read = table.Column<long>(type: "bigint", nullable: false),
                    problem = table.Column<string>(type: "text", nullable: true),
                    problem_code = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    run_id = table.Column<Guid>(type: "uuid", nullable: true),
                    cancel_requested = table.Column<bool>(type: "boolean", nullable: false),
                    created_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_imports", x => new { x.workshop_id, x.id });
                    table.CheckConstraint("ck_imports_state", "state IN ('queued', 'reading', 'done', 'failed', 'cancelled')");
                    table.ForeignKey(
                        name: "fk_imports_jobs_workshop_id_job_id",
                        columns: x => new { x.workshop_id, x.job_id },
                        principalTable: "jobs",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_imports_log_files_workshop_id_log_file_id",
                        columns: x => new { x.workshop_id, x.log_file_id },
                        principalTable: "log_files",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_imports_mounts_workshop_id_mount_id",
                        columns: x => new { x.workshop_id, x.mount_id },
                        principalTable: "mounts",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_imports_people_workshop_id_person_id",
                        columns: x => new { x.workshop_id, x.person_id },
                        principalTable: "people",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "runs",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    log_file_id = table.Column<Guid>(type: "uuid", nullable: false),
                    mount_id = table.Column<Guid>(type: "uuid", nullable: false),
                    imported_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    stretch = table.Column<string>(type: "jsonb", nullable: true),
                    marks = table.Column<string>(type: "jsonb", nullable: false, defaultValueSql: "'[]'"),
                    rows = table.Column<int>(type: "integer", nullable: false),
                    conditions = table.Column<string>(type: "jsonb", nullable: false),
                    analysis = table.Column<string>(type: "jsonb", nullable: false),
                    analysis_version = table.Column<int>(type: "integer", nullable: false),
                    missing_original = table.Column<bool>(type: "boolean", nullable: false),
                    removed_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_runs", x => new { x.workshop_id, x.id });
                    table.ForeignKey(
                        name: "fk_runs_jobs_workshop_id_job_id",
                        columns: x => new { x.workshop_id, x.job_id },
                        principalTable: "jobs",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_runs_log_files_workshop_id_log_file_id",
                        columns: x => new { x.workshop_id, x.log_file_id },
                        principalTable: "log_files",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_runs_mounts_workshop_id_mount_id",
                        columns: x => new { x.workshop_id, x.mount_id },
                        principalTable: "mounts",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
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
                        name: "fk_sample_chunks_runs_workshop_id_run_id",
                        columns: x => new { x.workshop_id, x.run_id },
                        principalTable: "runs",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
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
                        name: "fk_time_chunks_runs_workshop_id_run_id",
                        columns: x => new { x.workshop_id, x.run_id },
                        principalTable: "runs",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_bays_token_sha256",
                table: "bays",
                column: "token_sha256",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_bays_workshop_id_number",
                table: "bays",
                columns: new[] { "workshop_id", "number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_imports_workshop_id_job_id_sha256",
                table: "imports",
                columns: new[] { "workshop_id", "job_id", "sha256" },
                unique: true,
                filter: "state IN ('queued', 'reading')");

            migrationBuilder.CreateIndex(
                name: "ix_imports_workshop_id_job_id_state",
                table: "imports",
                columns: new[] { "workshop_id", "job_id", "state" });

            migrationBuilder.CreateIndex(
                name: "ix_imports_workshop_id_log_file_id",
                table: "imports",
                columns: new[] { "workshop_id", "log_file_id" });

            migrationBuilder.CreateIndex(
                name: "ix_imports_workshop_id_mount_id",
                table: "imports",
                columns: new[] { "workshop_id", "mount_id" });

            migrationBuilder.CreateIndex(
                name: "ix_imports_workshop_id_person_id",
                table: "imports",
                columns: new[] { "workshop_id", "person_id" });

            migrationBuilder.CreateIndex(
                name: "ix_job_events_workshop_id_job_id_id",
                table: "job_events",
                columns: new[] { "workshop_id", "job_id", "id" });

            migrationBuilder.CreateIndex(
                name: "ix_job_events_workshop_id_job_id_undoes",
                table: "job_events",
                columns: new[] { "workshop_id", "job_id", "undoes" });

            migrationBuilder.CreateIndex(
                name: "ix_job_events_workshop_id_person_id",
                table: "job_events",
                columns: new[] { "workshop_id", "person_id" });

            migrationBuilder.CreateIndex(
                name: "ix_job_photos_workshop_id_job_id_given_sha256",
                table: "job_photos",
                columns: new[] { "workshop_id", "job_id", "given_sha256" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_job_photos_workshop_id_person_id",
                table: "job_photos",
                columns: new[] { "workshop_id", "person_id" });

            migrationBuilder.CreateIndex(
                name: "ix_jobs_workshop_id_number",
                table: "jobs",
                columns: new[] { "workshop_id", "number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_jobs_workshop_id_serial",
                table: "jobs",
                columns: new[] { "workshop_id", "serial" });

            migrationBuilder.CreateIndex(
                name: "ix_log_files_workshop_id_sha256",
                table: "log_files",
                columns: new[] { "workshop_id", "sha256" });

            migrationBuilder.CreateIndex(
                name: "ix_mounts_workshop_id_job_id",
                table: "mounts",
                columns: new[] { "workshop_id", "job_id" });

            migrationBuilder.CreateIndex(
                name: "ix_mounts_workshop_id_setup_id_number",
                table: "mounts",
                columns: new[] { "workshop_id", "setup_id", "number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_part_events_workshop_id_part_id",
                table: "part_events",
                columns: new[] { "workshop_id", "part_id" });

            migrationBuilder.CreateIndex(
                name: "ix_part_events_workshop_id_person_id",
                table: "part_events",
                columns: new[] { "workshop_id", "person_id" });

            migrationBuilder.CreateIndex(
                name: "ix_parts_workshop_id_kind_name_key",
                table: "parts",
                columns: new[] { "workshop_id", "kind", "name_key" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_people_id",
                table: "people",
                column: "id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_rounds_workshop_id_job_id_number",
                table: "rounds",
                columns: new[] { "workshop_id", "job_id", "number" },
                unique: true,
                filter: "removed_at IS NULL");

            migrationBuilder.CreateIndex(
                name: "ix_runs_analysis_version",
                table: "runs",
                column: "analysis_version");

            migrationBuilder.CreateIndex(
                name: "ix_runs_workshop_id_job_id",
                table: "runs",
                columns: new[] { "workshop_id", "job_id" });

            migrationBuilder.CreateIndex(
                name: "ix_runs_workshop_id_log_file_id",
                table: "runs",
                columns: new[] { "workshop_id", "log_file_id" });

            migrationBuilder.CreateIndex(
                name: "ix_runs_workshop_id_mount_id",
                table: "runs",
                columns: new[] { "workshop_id", "mount_id" });

            migrationBuilder.CreateIndex(
                name: "ix_setups_workshop_id_job_id_number",
                table: "setups",
                columns: new[] { "workshop_id", "job_id", "number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_work_items_urgency_not_before",
                table: "work_items",
                columns: new[] { "urgency", "not_before" },
                filter: "set_aside_at IS NULL");

            migrationBuilder.CreateIndex(
                name: "ix_work_items_workshop_id_kind_subject_id",
                table: "work_items",
                columns: new[] { "workshop_id", "kind", "subject_id" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_workshop_events_workshop_id_person_id",
                table: "workshop_events",
                columns: new[] { "workshop_id", "person_id" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "bay_batches");

            migrationBuilder.DropTable(
                name: "bench_scatters");

            migrationBuilder.DropTable(
                name: "data_protection_keys");

            migrationBuilder.DropTable(
                name: "imports");

            migrationBuilder.DropTable(
                name: "installations");

            migrationBuilder.DropTable(
                name: "job_events");

            migrationBuilder.DropTable(
                name: "job_photos");

            migrationBuilder.DropTable(
                name: "part_events");

            migrationBuilder.DropTable(
                name: "remembered_roles");

            migrationBuilder.DropTable(
                name: "rounds");

            migrationBuilder.DropTable(
                name: "sample_chunks");

            migrationBuilder.DropTable(
                name: "time_chunks");

            migrationBuilder.DropTable(
                name: "work_items");

            migrationBuilder.DropTable(
                name: "workshop_events");

            migrationBuilder.DropTable(
                name: "bays");

            migrationBuilder.DropTable(
                name: "parts");

            migrationBuilder.DropTable(
                name: "runs");

            migrationBuilder.DropTable(
                name: "people");

            migrationBuilder.DropTable(
                name: "log_files");

            migrationBuilder.DropTable(
                name: "mounts");

            migrationBuilder.DropTable(
                name: "setups");

            migrationBuilder.DropTable(
                name: "jobs");

            migrationBuilder.DropTable(
                name: "workshops");
        }
    }
}
