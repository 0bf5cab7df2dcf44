<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('presets', static function (Blueprint $table): void {
            $table->string('use')->default('Own');
        });
        Schema::create('row_presets', static function (Blueprint $table): void {
            $table->id();
            $table->string('name')->unique();
            $table->string('use')->default('Own');
            $table->json('inserts');
            $table->timestamps();
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('row_presets');
        Schema::table('presets', static fn (Blueprint $table) => $table->dropColumn('use'));
    }
};
