using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Remedos.Data.Migrations
{
    /// <inheritdoc />
    public partial class SeveralServers : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "fk_sign_ins_people_workshop_id_person_id",
                table: "sign_ins");

            migrationBuilder.DropIndex(
                name: "ix_people_id",
                table: "people");

            migrationBuilder.DropIndex(
                name: "ix_invitations_token_sha256",
                table: "invitations");

            migrationBuilder.DropIndex(
                name: "ix_bays_token_sha256",
                table: "bays");

            migrationBuilder.AddColumn<long>(
                name: "revision",
                table: "bays",
                type: "bigint",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.CreateIndex(
                name: "ix_people_id",
                table: "people",
                column: "id");

            migrationBuilder.CreateIndex(
                name: "ix_invitations_token_sha256_workshop_id",
                table: "invitations",
                columns: new[] { "token_sha256", "workshop_id" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_bays_token_sha256_workshop_id",
                table: "bays",
                columns: new[] { "token_sha256", "workshop_id" },
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_people_id",
                table: "people");

            migrationBuilder.DropIndex(
                name: "ix_invitations_token_sha256_workshop_id",
                table: "invitations");

            migrationBuilder.DropIndex(
                name: "ix_bays_token_sha256_workshop_id",
                table: "bays");

            migrationBuilder.DropColumn(
                name: "revision",
                table: "bays");

            migrationBuilder.CreateIndex(
                name: "ix_people_id",
                table: "people",
                column: "id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_invitations_token_sha256",
                table: "invitations",
                column: "token_sha256",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_bays_token_sha256",
                table: "bays",
                column: "token_sha256",
                unique: true);

            migrationBuilder.AddForeignKey(
                name: "fk_sign_ins_people_workshop_id_person_id",
                table: "sign_ins",
                columns: new[] { "workshop_id", "person_id" },
                principalTable: "people",
                principalColumns: new[] { "workshop_id", "id" },
                onDelete: ReferentialAction.Restrict);
        }
    }
}
