<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

// How the audio interface is set, which inputs clipped, and what listeners want of it.
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('interface_profiles', static function (Blueprint $table): void {
            $table->id();
            $table->json('profile');
            $table->json('clipped');
            $table->unsignedInteger('change')->default(1);
            $table->timestamps();
        });
        Schema::table('listenings', static function (Blueprint $table): void {
            $table->json('armed')->nullable();
            $table->float('quick')->nullable();
            $table->boolean('standing')->default(false);
            $table->boolean('interface')->default(false);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('interface_profiles');
        Schema::table('listenings', static fn (Blueprint $table) => $table->dropColumn(['armed', 'quick', 'standing', 'interface']));
    }
};
