using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Remedos.Data.Migrations
{
    /// <inheritdoc />
    public partial class Measured : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<double>(
                name: "measured_behind_board_mm",
                table: "jobs",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "measured_card_back_plate_mm",
                table: "jobs",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "measured_card_length_mm",
                table: "jobs",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "measured_card_room_mm",
                table: "jobs",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "measured_card_thickness_mm",
                table: "jobs",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "measured_cooler_room_mm",
                table: "jobs",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "measured_first_slot_from_socket_mm",
                table: "jobs",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "measured_memory_from_socket_mm",
                table: "jobs",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "measured_radiator_bottom_mm",
                table: "jobs",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "measured_radiator_front_mm",
                table: "jobs",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "measured_radiator_rear_mm",
                table: "jobs",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "measured_radiator_side_mm",
                table: "jobs",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "measured_radiator_top_mm",
                table: "jobs",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "measured_rear_from_socket_mm",
                table: "jobs",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "measured_slot_to_bottom_mm",
                table: "jobs",
                type: "double precision",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "measured_behind_board_mm",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "measured_card_back_plate_mm",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "measured_card_length_mm",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "measured_card_room_mm",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "measured_card_thickness_mm",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "measured_cooler_room_mm",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "measured_first_slot_from_socket_mm",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "measured_memory_from_socket_mm",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "measured_radiator_bottom_mm",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "measured_radiator_front_mm",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "measured_radiator_rear_mm",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "measured_radiator_side_mm",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "measured_radiator_top_mm",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "measured_rear_from_socket_mm",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "measured_slot_to_bottom_mm",
                table: "jobs");
        }
    }
}
