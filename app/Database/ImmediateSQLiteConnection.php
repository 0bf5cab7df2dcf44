<?php

declare(strict_types=1);

namespace App\Database;

use Illuminate\Database\SQLiteConnection;
use PDOException;

/**
 * SQLite whose transactions take the right to write when they begin. One that reads first and writes later cannot wait for
 * another writer and fails with "database is locked". The framework does this itself from PHP 8.4 on.
 */
final class ImmediateSQLiteConnection extends SQLiteConnection
{
    protected function executeBeginTransactionStatement(): void
    {
        $pdo = $this->getPdo();
        // PDO has to know of the transaction, so it begins one; SQLite gets the kind we need in its place.
        $pdo->beginTransaction();
        $pdo->exec('ROLLBACK');
        $pdo->exec('BEGIN IMMEDIATE');
    }

    /**
     * On a full disk SQLite takes a transaction back by itself, and PDO does not know: without a new connection no other transaction
     * could ever begin.
     */
    protected function performRollBack($toLevel)
    {
        try {
            parent::performRollBack($toLevel);
        } catch (PDOException) {
            $this->disconnect();
        }
    }
}
