<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::rename('left_notes', 'dismissed_advice');
        Schema::table('dismissed_advice', static fn (Blueprint $table) => $table->renameColumn('note', 'advice'));
    }

    public function down(): void
    {
        Schema::table('dismissed_advice', static fn (Blueprint $table) => $table->renameColumn('advice', 'note'));
        Schema::rename('dismissed_advice', 'left_notes');
    }
};
