<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        // What was measured before parts had figures of their own is measured again.
        DB::table('surveys')->delete();
        Schema::table('surveys', static function (Blueprint $table): void {
            $table->longText('document')->default('');
            // The stretch that is measured, in samples; null is all of the session.
            $table->unsignedBigInteger('from')->nullable();
            $table->unsignedBigInteger('to')->nullable();
            $table->unsignedInteger('weight')->default(0);
        });
        Schema::create('survey_parts', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('survey_id')->constrained()->cascadeOnDelete();
            $table->string('channel', 64);
            $table->string('status', 16);
            $table->unsignedInteger('weight');
            $table->float('progress')->default(0);
            $table->timestamp('beat_at')->nullable();
            $table->timestamps();
            $table->unique(['survey_id', 'channel']);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('survey_parts');
        Schema::table('surveys', static function (Blueprint $table): void {
            $table->dropColumn(['document', 'from', 'to', 'weight']);
        });
    }
};
