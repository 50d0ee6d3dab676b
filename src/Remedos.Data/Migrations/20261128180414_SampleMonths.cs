using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Remedos.Data.Migrations
{
    /// <inheritdoc />
    public partial class SampleMonths : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateIndex(
                name: "ix_runs_missing_original",
                table: "runs",
                column: "workshop_id",
                filter: "missing_original");

            // What there is becomes the part for the rest, as it lies; the server moves its months out of it.
            foreach ((string table, string key) in new[]
            {
                ("sample_chunks", "workshop_id, run_id, level, channel, chunk"),
                ("time_chunks", "workshop_id, run_id, level, chunk"),
            })
            {
                migrationBuilder.Sql(
                    $"""
                    ALTER TABLE {table} RENAME TO {table}_rest;
                    ALTER TABLE {table}_rest RENAME CONSTRAINT pk_{table} TO pk_{table}_rest;
                    CREATE TABLE {table} (LIKE {table}_rest INCLUDING DEFAULTS INCLUDING STORAGE) PARTITION BY RANGE (run_id);
                    ALTER TABLE {table} ADD CONSTRAINT pk_{table} PRIMARY KEY ({key});
                    ALTER TABLE {table} ADD CONSTRAINT fk_{table}_runs_workshop_id_run_id
                        FOREIGN KEY (workshop_id, run_id) REFERENCES runs (workshop_id, id) ON DELETE RESTRICT;
                    ALTER TABLE {table} ATTACH PARTITION {table}_rest DEFAULT;
                    """);
            }
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_runs_missing_original",
                table: "runs");
        }
    }
}
