<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::create('split_presets', static function (Blueprint $table): void {
            $table->id();
            $table->string('name')->unique();
            $table->json('split');
            $table->timestamps();
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('split_presets');
    }
};
