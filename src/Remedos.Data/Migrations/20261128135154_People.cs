using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Remedos.Data.Migrations
{
    /// <inheritdoc />
    public partial class People : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<Guid>(
                name: "account_id",
                table: "people",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<DateTimeOffset>(
                name: "left_at",
                table: "people",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "pin_failures",
                table: "people",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<string>(
                name: "pin_hash",
                table: "people",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<DateTimeOffset>(
                name: "pin_locked_until",
                table: "people",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "role",
                table: "people",
                type: "character varying(20)",
                maxLength: 20,
                nullable: false,
                defaultValue: "technician");

            migrationBuilder.AddColumn<DateTimeOffset>(
                name: "token_made_at",
                table: "bays",
                type: "timestamp with time zone",
                nullable: false,
                defaultValueSql: "now()");

            migrationBuilder.CreateTable(
                name: "access_events",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityAlwaysColumn),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: true),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    kind = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    subject = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: true),
                    address = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_access_events", x => new { x.workshop_id, x.id });
                    table.ForeignKey(
                        name: "fk_access_events_people_workshop_id_person_id",
                        columns: x => new { x.workshop_id, x.person_id },
                        principalTable: "people",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_access_events_workshops_workshop_id",
                        column: x => x.workshop_id,
                        principalTable: "workshops",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "accounts",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    used_codes = table.Column<string[]>(type: "text[]", nullable: false),
                    user_name = table.Column<string>(type: "character varying(256)", maxLength: 256, nullable: true),
                    normalized_user_name = table.Column<string>(type: "character varying(256)", maxLength: 256, nullable: true),
                    email = table.Column<string>(type: "character varying(256)", maxLength: 256, nullable: true),
                    normalized_email = table.Column<string>(type: "character varying(256)", maxLength: 256, nullable: true),
                    email_confirmed = table.Column<bool>(type: "boolean", nullable: false),
                    password_hash = table.Column<string>(type: "text", nullable: true),
                    security_stamp = table.Column<string>(type: "text", nullable: true),
                    concurrency_stamp = table.Column<string>(type: "text", nullable: true),
                    phone_number = table.Column<string>(type: "character varying(256)", maxLength: 256, nullable: true),
                    phone_number_confirmed = table.Column<bool>(type: "boolean", nullable: false),
                    two_factor_enabled = table.Column<bool>(type: "boolean", nullable: false),
                    lockout_end = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    lockout_enabled = table.Column<bool>(type: "boolean", nullable: false),
                    access_failed_count = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_accounts", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "invitations",
                columns: table => new
                {
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    token_sha256 = table.Column<string>(type: "character varying(64)", maxLength: 64, nullable: false),
                    made_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    expires_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    used_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_invitations", x => new { x.workshop_id, x.id });
                    table.ForeignKey(
                        name: "fk_invitations_people_workshop_id_person_id",
                        columns: x => new { x.workshop_id, x.person_id },
                        principalTable: "people",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "account_claims",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    user_id = table.Column<Guid>(type: "uuid", nullable: false),
                    claim_type = table.Column<string>(type: "text", nullable: true),
                    claim_value = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_account_claims", x => x.id);
                    table.ForeignKey(
                        name: "fk_account_claims_accounts_user_id",
                        column: x => x.user_id,
                        principalTable: "accounts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "account_logins",
                columns: table => new
                {
                    login_provider = table.Column<string>(type: "character varying(128)", maxLength: 128, nullable: false),
                    provider_key = table.Column<string>(type: "character varying(128)", maxLength: 128, nullable: false),
                    provider_display_name = table.Column<string>(type: "text", nullable: true),
                    user_id = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_account_logins", x => new { x.login_provider, x.provider_key });
                    table.ForeignKey(
                        name: "fk_account_logins_accounts_user_id",
                        column: x => x.user_id,
                        principalTable: "accounts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "account_passkeys",
                columns: table => new
                {
                    credential_id = table.Column<byte[]>(type: "bytea", maxLength: 1024, nullable: false),
                    user_id = table.Column<Guid>(type: "uuid", nullable: false),
                    data = table.Column<string>(type: "jsonb", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_account_passkeys", x => x.credential_id);
                    table.ForeignKey(
                        name: "fk_account_passkeys_accounts_user_id",
                        column: x => x.user_id,
                        principalTable: "accounts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "account_tokens",
                columns: table => new
                {
                    user_id = table.Column<Guid>(type: "uuid", nullable: false),
                    login_provider = table.Column<string>(type: "character varying(128)", maxLength: 128, nullable: false),
                    name = table.Column<string>(type: "character varying(128)", maxLength: 128, nullable: false),
                    value = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_account_tokens", x => new { x.user_id, x.login_provider, x.name });
                    table.ForeignKey(
                        name: "fk_account_tokens_accounts_user_id",
                        column: x => x.user_id,
                        principalTable: "accounts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "sign_ins",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    token_sha256 = table.Column<string>(type: "character varying(64)", maxLength: 64, nullable: false),
                    account_id = table.Column<Guid>(type: "uuid", nullable: false),
                    workshop_id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    by_pin = table.Column<bool>(type: "boolean", nullable: false),
                    way = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    device = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    address = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    seen_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    proved_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    ended_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_sign_ins", x => x.id);
                    table.ForeignKey(
                        name: "fk_sign_ins_accounts_account_id",
                        column: x => x.account_id,
                        principalTable: "accounts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_sign_ins_people_workshop_id_person_id",
                        columns: x => new { x.workshop_id, x.person_id },
                        principalTable: "people",
                        principalColumns: new[] { "workshop_id", "id" },
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_workshop_events_workshop_id_at",
                table: "workshop_events",
                columns: new[] { "workshop_id", "at" });

            migrationBuilder.CreateIndex(
                name: "ix_people_account_id",
                table: "people",
                column: "account_id");

            migrationBuilder.CreateIndex(
                name: "ix_people_workshop_id_account_id",
                table: "people",
                columns: new[] { "workshop_id", "account_id" },
                unique: true);

            migrationBuilder.AddCheckConstraint(
                name: "ck_people_role",
                table: "people",
                sql: "role IN ('reader', 'technician', 'lead')");

            migrationBuilder.CreateIndex(
                name: "ix_part_events_workshop_id_at",
                table: "part_events",
                columns: new[] { "workshop_id", "at" });

            migrationBuilder.CreateIndex(
                name: "ix_job_events_workshop_id_at",
                table: "job_events",
                columns: new[] { "workshop_id", "at" });

            migrationBuilder.CreateIndex(
                name: "ix_access_events_workshop_id_at",
                table: "access_events",
                columns: new[] { "workshop_id", "at" });

            migrationBuilder.CreateIndex(
                name: "ix_access_events_workshop_id_person_id",
                table: "access_events",
                columns: new[] { "workshop_id", "person_id" });

            migrationBuilder.CreateIndex(
                name: "ix_account_claims_user_id",
                table: "account_claims",
                column: "user_id");

            migrationBuilder.CreateIndex(
                name: "ix_account_logins_user_id",
                table: "account_logins",
                column: "user_id");

            migrationBuilder.CreateIndex(
                name: "ix_account_passkeys_user_id",
                table: "account_passkeys",
                column: "user_id");

            migrationBuilder.CreateIndex(
                name: "EmailIndex",
                table: "accounts",
                column: "normalized_email");

            migrationBuilder.CreateIndex(
                name: "UserNameIndex",
                table: "accounts",
                column: "normalized_user_name",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_invitations_token_sha256",
                table: "invitations",
                column: "token_sha256",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_invitations_workshop_id_person_id",
                table: "invitations",
                columns: new[] { "workshop_id", "person_id" });

            migrationBuilder.CreateIndex(
                name: "ix_sign_ins_account_id",
                table: "sign_ins",
                column: "account_id");

            migrationBuilder.CreateIndex(
                name: "ix_sign_ins_token_sha256",
                table: "sign_ins",
                column: "token_sha256",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_sign_ins_workshop_id_person_id",
                table: "sign_ins",
                columns: new[] { "workshop_id", "person_id" });

            migrationBuilder.AddForeignKey(
                name: "fk_people_accounts_account_id",
                table: "people",
                column: "account_id",
                principalTable: "accounts",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "fk_people_accounts_account_id",
                table: "people");

            migrationBuilder.DropTable(
                name: "access_events");

            migrationBuilder.DropTable(
                name: "account_claims");

            migrationBuilder.DropTable(
                name: "account_logins");

            migrationBuilder.DropTable(
                name: "account_passkeys");

            migrationBuilder.DropTable(
                name: "account_tokens");

            migrationBuilder.DropTable(
                name: "invitations");

            migrationBuilder.DropTable(
                name: "sign_ins");

            migrationBuilder.DropTable(
                name: "accounts");

            migrationBuilder.DropIndex(
                name: "ix_workshop_events_workshop_id_at",
                table: "workshop_events");

            migrationBuilder.DropIndex(
                name: "ix_people_account_id",
                table: "people");

            migrationBuilder.DropIndex(
                name: "ix_people_workshop_id_account_id",
                table: "people");

            migrationBuilder.DropCheckConstraint(
                name: "ck_people_role",
                table: "people");

            migrationBuilder.DropIndex(
                name: "ix_part_events_workshop_id_at",
                table: "part_events");

            migrationBuilder.DropIndex(
                name: "ix_job_events_workshop_id_at",
                table: "job_events");

            migrationBuilder.DropColumn(
                name: "account_id",
                table: "people");

            migrationBuilder.DropColumn(
                name: "left_at",
                table: "people");

            migrationBuilder.DropColumn(
                name: "pin_failures",
                table: "people");

            migrationBuilder.DropColumn(
                name: "pin_hash",
                table: "people");

            migrationBuilder.DropColumn(
                name: "pin_locked_until",
                table: "people");

            migrationBuilder.DropColumn(
                name: "role",
                table: "people");

            migrationBuilder.DropColumn(
                name: "token_made_at",
                table: "bays");
        }
    }
}
