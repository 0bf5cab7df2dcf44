<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

// A click for who listens, beside what plays.
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('listenings', static fn (Blueprint $table) => $table->boolean('click')->default(false));
    }

    public function down(): void
    {
        Schema::table('listenings', static fn (Blueprint $table) => $table->dropColumn('click'));
    }
};
