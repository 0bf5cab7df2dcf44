<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::create('remedy_plans', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('session_id')->constrained()->cascadeOnDelete();
            // Key of the survey of the session it is for, and of what was chosen.
            $table->string('content', 64);
            $table->string('choice_key', 64);
            $table->text('choice');
            $table->longText('document');
            $table->string('status', 16);
            $table->float('progress')->default(0);
            $table->longText('prediction')->nullable();
            $table->text('message')->nullable();
            $table->timestamp('beat_at')->nullable();
            $table->timestamps();
            $table->unique(['session_id', 'content', 'choice_key']);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('remedy_plans');
    }
};
