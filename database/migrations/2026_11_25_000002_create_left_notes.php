<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::create('left_notes', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('session_id')->constrained()->cascadeOnDelete();
            $table->string('note', 200);
            $table->timestamps();
            $table->unique(['session_id', 'note']);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('left_notes');
    }
};
