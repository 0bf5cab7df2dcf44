<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

// What is on screen is measured first, and levels are shown while they are measured.
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('survey_parts', static function (Blueprint $table): void {
            $table->unsignedInteger('place')->default(0);
            $table->json('levels')->nullable();
        });
    }

    public function down(): void
    {
        Schema::table('survey_parts', static fn (Blueprint $table) => $table->dropColumn(['place', 'levels']));
    }
};
