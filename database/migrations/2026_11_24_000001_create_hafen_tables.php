<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::create('sessions', static function (Blueprint $table): void {
            $table->id();
            $table->string('name');
            // The revision that counts now; undo and redo move it.
            $table->unsignedBigInteger('head_id')->nullable();
            // Goes up with every change, undo and redo included: what listeners and editors compare with.
            $table->unsignedBigInteger('change')->default(0);
            $table->timestamps();
        });

        Schema::create('revisions', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('session_id')->constrained()->cascadeOnDelete();
            $table->foreignId('parent_id')->nullable()->constrained('revisions')->nullOnDelete();
            $table->longText('document');
            $table->json('edit')->nullable();
            $table->json('touches');
            $table->string('label');
            // One movement of a control, however many steps it took, is one revision.
            $table->string('gesture')->nullable();
            $table->timestamps();
            $table->index(['session_id', 'parent_id']);
        });

        Schema::create('session_changes', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('session_id')->constrained()->cascadeOnDelete();
            $table->unsignedBigInteger('number');
            $table->json('touches');
            $table->string('label');
            $table->timestamp('created_at')->nullable();
            $table->unique(['session_id', 'number']);
        });

        Schema::create('media', static function (Blueprint $table): void {
            // The SHA-256 of the file as it was imported.
            $table->string('id', 64)->primary();
            $table->string('name');
            $table->string('extension', 16);
            $table->unsignedBigInteger('bytes');
            $table->string('status', 16);
            $table->text('message')->nullable();
            $table->unsignedInteger('sample_rate')->nullable();
            $table->unsignedSmallInteger('channels')->nullable();
            $table->unsignedBigInteger('frames')->nullable();
            $table->string('format', 8)->nullable();
            $table->longText('overview')->nullable();
            $table->timestamps();
        });

        Schema::create('uploads', static function (Blueprint $table): void {
            $table->uuid('id')->primary();
            $table->string('name');
            $table->unsignedBigInteger('bytes');
            $table->unsignedBigInteger('received')->default(0);
            $table->timestamps();
        });

        Schema::create('renders', static function (Blueprint $table): void {
            $table->uuid('id')->primary();
            $table->foreignId('session_id')->constrained()->cascadeOnDelete();
            $table->longText('document');
            $table->json('options');
            $table->string('name');
            $table->string('status', 16);
            $table->float('progress')->default(0);
            $table->text('message')->nullable();
            $table->json('result')->nullable();
            $table->timestamp('beat_at')->nullable();
            $table->timestamps();
        });

        Schema::create('surveys', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('session_id')->constrained()->cascadeOnDelete();
            // What was measured: the hash of everything in the document that can be heard.
            $table->string('content', 64);
            $table->unsignedBigInteger('change');
            $table->string('status', 16);
            $table->float('progress')->default(0);
            $table->text('message')->nullable();
            $table->longText('result')->nullable();
            $table->timestamp('beat_at')->nullable();
            $table->timestamps();
            $table->index(['session_id', 'content']);
        });

        Schema::create('presets', static function (Blueprint $table): void {
            $table->id();
            $table->string('processor');
            $table->string('name');
            $table->json('parameters');
            $table->timestamps();
            $table->unique(['processor', 'name']);
        });

        Schema::create('listenings', static function (Blueprint $table): void {
            $table->uuid('id')->primary();
            $table->foreignId('session_id')->constrained()->cascadeOnDelete();
            $table->string('tap')->nullable();
            $table->unsignedBigInteger('loop_start')->nullable();
            $table->unsignedBigInteger('loop_end')->nullable();
            // What side 2 bypasses: {"insert": id} or {"row": channel}.
            $table->json('compare')->nullable();
            $table->unsignedTinyInteger('side')->default(1);
            $table->boolean('stopped')->default(false);
            $table->timestamps();
        });

        Schema::create('jobs', static function (Blueprint $table): void {
            $table->id();
            $table->string('queue')->index();
            $table->longText('payload');
            $table->unsignedTinyInteger('attempts');
            $table->unsignedInteger('reserved_at')->nullable();
            $table->unsignedInteger('available_at');
            $table->unsignedInteger('created_at');
        });

        Schema::create('failed_jobs', static function (Blueprint $table): void {
            $table->id();
            $table->string('uuid')->unique();
            $table->text('connection');
            $table->text('queue');
            $table->longText('payload');
            $table->longText('exception');
            $table->timestamp('failed_at')->useCurrent();
        });
    }

    public function down(): void
    {
        foreach (['failed_jobs', 'jobs', 'listenings', 'presets', 'surveys', 'renders', 'uploads', 'media', 'session_changes', 'revisions', 'sessions'] as $table) {
            Schema::dropIfExists($table);
        }
    }
};
