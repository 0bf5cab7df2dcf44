<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

// The keys a listener plays on a note channel just now.
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('listenings', static fn (Blueprint $table) => $table->json('played')->nullable());
    }

    public function down(): void
    {
        Schema::table('listenings', static fn (Blueprint $table) => $table->dropColumn('played'));
    }
};
