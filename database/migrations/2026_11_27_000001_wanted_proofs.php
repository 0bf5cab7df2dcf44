<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

// What remedies do is proved over the whole length only where somebody chose or hears them.
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('remedy_plans', static fn (Blueprint $table) => $table->boolean('is_wanted')->default(false));
    }

    public function down(): void
    {
        Schema::table('remedy_plans', static fn (Blueprint $table) => $table->dropColumn('is_wanted'));
    }
};
