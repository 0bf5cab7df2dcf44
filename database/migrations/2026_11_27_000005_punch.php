<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

// The range a listener records: what is played before and after it is heard, and not recorded.
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('listenings', static fn (Blueprint $table) => $table->json('punch')->nullable());
    }

    public function down(): void
    {
        Schema::table('listenings', static fn (Blueprint $table) => $table->dropColumn('punch'));
    }
};
