<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::create('print_batches', static function (Blueprint $table): void {
            $table->uuid('id')->primary();
            $table->foreignId('session_id')->constrained()->cascadeOnDelete();
            // "freeze" or "print".
            $table->string('kind', 16);
            $table->text('options');
            $table->string('status', 16);
            // The session as it was when it was asked for, compressed.
            $table->binary('document');
            $table->text('message')->nullable();
            $table->timestamps();
        });
        Schema::create('print_parts', static function (Blueprint $table): void {
            $table->id();
            $table->foreignUuid('batch_id')->constrained('print_batches')->cascadeOnDelete();
            $table->string('channel', 64);
            $table->string('name', 120);
            // Content of the channel up to its fader, tail and format: what has the same key has the same file.
            $table->string('content', 64)->index();
            $table->text('options');
            $table->string('status', 16);
            $table->float('progress')->default(0);
            $table->float('weight')->default(1);
            $table->text('message')->nullable();
            $table->string('media_id', 64)->nullable();
            $table->string('hash', 32)->nullable();
            $table->text('result')->nullable();
            $table->string('claim', 32)->nullable();
            $table->unsignedSmallInteger('attempts')->default(0);
            $table->timestamp('queued_at')->nullable();
            $table->timestamp('beat_at')->nullable();
            $table->timestamps();
        });
        Schema::create('load_runs', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('session_id')->constrained()->cascadeOnDelete();
            // Hash of the document that was measured.
            $table->string('content', 64);
            $table->string('status', 16);
            $table->float('progress')->default(0);
            $table->text('message')->nullable();
            $table->longText('result')->nullable();
            $table->string('claim', 32)->nullable();
            $table->unsignedSmallInteger('attempts')->default(0);
            $table->timestamp('queued_at')->nullable();
            $table->timestamp('beat_at')->nullable();
            $table->timestamps();
            $table->unique(['session_id', 'content']);
        });
        Schema::table('media', static function (Blueprint $table): void {
            // What it was frozen from; null for what was imported.
            $table->string('frozen_from', 120)->nullable();
        });
    }

    public function down(): void
    {
        Schema::table('media', static fn (Blueprint $table) => $table->dropColumn('frozen_from'));
        Schema::dropIfExists('load_runs');
        Schema::dropIfExists('print_parts');
        Schema::dropIfExists('print_batches');
    }
};
