<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

// The channels whose levels a listener sees; the others need not be metered at every tap.
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('listenings', static fn (Blueprint $table) => $table->json('metered')->nullable());
    }

    public function down(): void
    {
        Schema::table('listenings', static fn (Blueprint $table) => $table->dropColumn('metered'));
    }
};
