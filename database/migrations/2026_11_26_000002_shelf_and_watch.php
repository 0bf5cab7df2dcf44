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
        Schema::create('folders', static function (Blueprint $table): void {
            $table->id();
            $table->string('name')->unique();
            $table->json('processors');
            $table->timestamps();
        });
        Schema::table('listenings', static function (Blueprint $table): void {
            $table->string('watch')->nullable();
        });
        // What was called trim is called gain. Documents are read by either name; what is looked up by it is written anew.
        DB::table('presets')->where('processor', 'trim')->update(['processor' => 'gain']);
        foreach (['row_presets' => 'inserts', 'split_presets' => 'split'] as $table => $column) {
            foreach (DB::table($table)->where($column, 'like', '%"processor":"trim"%')->get() as $row) {
                $values = (array) $row;
                DB::table($table)->where('id', $values['id'])->update([
                    $column => str_replace('"processor":"trim"', '"processor":"gain"', (string) $values[$column]),
                ]);
            }
        }
    }

    public function down(): void
    {
        Schema::dropIfExists('folders');
        Schema::table('listenings', static fn (Blueprint $table) => $table->dropColumn('watch'));
    }
};
