<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

// Pages of performers: who knows the key may set the few faders of one cue. And listeners who hear a tap beside the main.
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('performer_pages', static function (Blueprint $table): void {
            $table->string('key', 32)->primary();
            $table->foreignId('session_id')->constrained()->cascadeOnDelete();
            $table->string('cue', 64);
            $table->timestamps();
            $table->unique(['session_id', 'cue']);
        });
        Schema::table('listenings', static fn (Blueprint $table) => $table->boolean('beside')->default(false));
    }

    public function down(): void
    {
        Schema::dropIfExists('performer_pages');
        Schema::table('listenings', static fn (Blueprint $table) => $table->dropColumn('beside'));
    }
};
