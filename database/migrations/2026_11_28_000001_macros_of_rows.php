<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        foreach (['row_presets', 'split_presets'] as $table) {
            Schema::table($table, static function (Blueprint $columns): void {
                $columns->json('macros')->default('[]');
                $columns->json('sounds')->default('[]');
            });
        }
    }

    public function down(): void
    {
        foreach (['row_presets', 'split_presets'] as $table) {
            Schema::table($table, static fn (Blueprint $columns) => $columns->dropColumn(['macros', 'sounds']));
        }
    }
};
