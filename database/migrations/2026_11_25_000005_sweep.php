<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('listenings', static function (Blueprint $table): void {
            // A boost that is moved over a channel: its id and Hz.
            $table->json('sweep')->nullable();
        });
    }

    public function down(): void
    {
        Schema::table('listenings', static function (Blueprint $table): void {
            $table->dropColumn('sweep');
        });
    }
};
