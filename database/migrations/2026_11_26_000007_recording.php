<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        // What is recorded while it plays: the track it goes on and the tap it comes from.
        Schema::table('listenings', static fn (Blueprint $table) => $table->text('record')->nullable());
    }

    public function down(): void
    {
        Schema::table('listenings', static fn (Blueprint $table) => $table->dropColumn('record'));
    }
};
